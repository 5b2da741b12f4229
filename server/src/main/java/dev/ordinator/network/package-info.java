/** Nodes, lanes and zones as stored; the load of a node's days. */
@NullMarked
package dev.ordinator.network;

import org.jspecify.annotations.NullMarked;
