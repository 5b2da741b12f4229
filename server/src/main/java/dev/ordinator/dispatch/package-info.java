/** Consignments, packing bench, labels, tracking, telling others. */
@NullMarked
package dev.ordinator.dispatch;

import org.jspecify.annotations.NullMarked;
