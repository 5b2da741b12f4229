/** What needs a person now. */
@NullMarked
package dev.ordinator.today;

import org.jspecify.annotations.NullMarked;
