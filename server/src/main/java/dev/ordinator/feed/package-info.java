/** Tells channels what is in stock, and asks a person first when that looks like a mistake. */
@NullMarked
package dev.ordinator.feed;

import org.jspecify.annotations.NullMarked;
