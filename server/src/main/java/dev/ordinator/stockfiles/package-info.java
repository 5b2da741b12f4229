/** Files of items, levels, counts, expected supplies and kits. */
@NullMarked
package dev.ordinator.stockfiles;

import org.jspecify.annotations.NullMarked;
