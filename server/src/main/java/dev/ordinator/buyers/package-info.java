/** Tells buyers that they have to wait longer, and asks them what they want. */
@NullMarked
package dev.ordinator.buyers;

import org.jspecify.annotations.NullMarked;
