/** Takes orders in: by pull, webhook and file, with what their channels change later. */
@NullMarked
package dev.ordinator.intake;

import org.jspecify.annotations.NullMarked;
