/** The outside world in small; shares nothing with the server but the wire. */
@NullMarked
package dev.ordinator.standins;

import org.jspecify.annotations.NullMarked;
