/** Says whether the data is as it should be. */
@NullMarked
package dev.ordinator.doctor;

import org.jspecify.annotations.NullMarked;
