/** Takes the kits of orders apart. */
@NullMarked
package dev.ordinator.kits;

import org.jspecify.annotations.NullMarked;
