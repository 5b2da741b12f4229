/** Offers our items on channels, at prices that follow from what they cost. */
@NullMarked
package dev.ordinator.publishing;

import org.jspecify.annotations.NullMarked;
