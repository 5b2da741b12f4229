/** What other currencies are worth in ours, day by day. */
@NullMarked
package dev.ordinator.rates;

import org.jspecify.annotations.NullMarked;
