/** What is there, what is promised, what is free. */
@NullMarked
package dev.ordinator.core.stock;

import org.jspecify.annotations.NullMarked;
