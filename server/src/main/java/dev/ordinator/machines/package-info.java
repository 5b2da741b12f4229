/** Systems that call us: orders, states and availability by token, and webhooks to tell them. */
@NullMarked
package dev.ordinator.machines;

import org.jspecify.annotations.NullMarked;
