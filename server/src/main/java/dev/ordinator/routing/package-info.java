/** Deciding where an order is sent from, and keeping why. */
@NullMarked
package dev.ordinator.routing;

import org.jspecify.annotations.NullMarked;
