/** Amounts in minor units, and splitting them so that the parts add up. */
@NullMarked
package dev.ordinator.core.money;

import org.jspecify.annotations.NullMarked;
