/** Routes past orders again under a draft of the rulebook, beside what really happened. */
@NullMarked
package dev.ordinator.rehearsal;

import org.jspecify.annotations.NullMarked;
