/** The one door through which stock changes, and the view of it. */
@NullMarked
package dev.ordinator.stock;

import org.jspecify.annotations.NullMarked;
