/** Who may log in, and as what. */
@NullMarked
package dev.ordinator.access;

import org.jspecify.annotations.NullMarked;
