/** How large what comes from outside may be. */
@NullMarked
package dev.ordinator.core.limits;

import org.jspecify.annotations.NullMarked;
