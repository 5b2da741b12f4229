/** Orders as the job sees them: payment, address, service asked for, stage. */
@NullMarked
package dev.ordinator.core.orders;

import org.jspecify.annotations.NullMarked;
