/** Files of items, levels, counts, expected supplies and kits, and of the network. */
@NullMarked
package dev.ordinator.stockfiles;

import org.jspecify.annotations.NullMarked;
