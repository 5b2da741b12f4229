/** What people look at again and again, kept under a name. */
@NullMarked
package dev.ordinator.views;

import org.jspecify.annotations.NullMarked;
