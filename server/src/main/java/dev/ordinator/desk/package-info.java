/** Takes each order from step to step by itself, as far as it goes. */
@NullMarked
package dev.ordinator.desk;

import org.jspecify.annotations.NullMarked;
