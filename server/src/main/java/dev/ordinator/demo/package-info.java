/** The demo world: Brackenholt Bee Supply, its network, goods and past. All of it is invented. */
@NullMarked
package dev.ordinator.demo;

import org.jspecify.annotations.NullMarked;
