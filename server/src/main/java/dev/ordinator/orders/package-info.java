/** Orders, their holds and snags, the worklist. */
@NullMarked
package dev.ordinator.orders;

import org.jspecify.annotations.NullMarked;
