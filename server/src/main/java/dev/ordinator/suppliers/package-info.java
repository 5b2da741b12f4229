/** What others offer us. */
@NullMarked
package dev.ordinator.suppliers;

import org.jspecify.annotations.NullMarked;
