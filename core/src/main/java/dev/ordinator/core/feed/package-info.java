/** What channels are told is in stock, and when they are better not told. */
@NullMarked
package dev.ordinator.core.feed;

import org.jspecify.annotations.NullMarked;
