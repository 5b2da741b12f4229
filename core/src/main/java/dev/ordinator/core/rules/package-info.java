/** Desk rules: when this happens and this holds, do that to an order. */
@NullMarked
package dev.ordinator.core.rules;

import org.jspecify.annotations.NullMarked;
