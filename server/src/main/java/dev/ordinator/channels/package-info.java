/** Connections to channels: intake, matching, write-back. */
@NullMarked
package dev.ordinator.channels;

import org.jspecify.annotations.NullMarked;
