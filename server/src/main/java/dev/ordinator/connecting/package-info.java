/** Connects a channel step by step, without any harm to it: nothing is written there. */
@NullMarked
package dev.ordinator.connecting;

import org.jspecify.annotations.NullMarked;
