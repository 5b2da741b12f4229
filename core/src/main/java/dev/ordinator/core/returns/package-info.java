/** What is owed back to buyers. */
@NullMarked
package dev.ordinator.core.returns;

import org.jspecify.annotations.NullMarked;
