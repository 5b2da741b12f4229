/** Tells channels what became of their orders. */
@NullMarked
package dev.ordinator.writeback;

import org.jspecify.annotations.NullMarked;
