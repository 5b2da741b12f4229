/** Nodes, lanes, zones and calendars: who can send where, how fast, at what carriage. */
@NullMarked
package dev.ordinator.core.network;

import org.jspecify.annotations.NullMarked;
