/** Choosing node, service and dates for an order, and saying why. */
@NullMarked
package dev.ordinator.core.routing;

import org.jspecify.annotations.NullMarked;
