/** Editions of rules and ladders. */
@NullMarked
package dev.ordinator.rulebook;

import org.jspecify.annotations.NullMarked;
