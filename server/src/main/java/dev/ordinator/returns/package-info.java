/** Pays buyers back. */
@NullMarked
package dev.ordinator.returns;

import org.jspecify.annotations.NullMarked;
