/** Ends orders, or parts of them. */
@NullMarked
package dev.ordinator.cancelling;

import org.jspecify.annotations.NullMarked;
