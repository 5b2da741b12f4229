/** Consignments on their way out: states, pack check, transport identifiers. */
@NullMarked
package dev.ordinator.core.dispatch;

import org.jspecify.annotations.NullMarked;
