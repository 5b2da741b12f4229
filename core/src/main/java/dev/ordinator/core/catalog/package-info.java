/** Items and their identifiers. */
@NullMarked
package dev.ordinator.core.catalog;

import org.jspecify.annotations.NullMarked;
