/** Who gets what there is, who waits, and until when. */
@NullMarked
package dev.ordinator.core.allocation;

import org.jspecify.annotations.NullMarked;
