/** What channels offer, and which of our items it is. */
@NullMarked
package dev.ordinator.listings;

import org.jspecify.annotations.NullMarked;
