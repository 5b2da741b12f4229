/** Who waits for what, in which order, and until when. */
@NullMarked
package dev.ordinator.backorders;

import org.jspecify.annotations.NullMarked;
