/** Allocates many lines at once: seen first, then done, undone while nothing of it was released. */
@NullMarked
package dev.ordinator.allocation;

import org.jspecify.annotations.NullMarked;
