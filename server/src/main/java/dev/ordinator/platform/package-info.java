/** What every feature stands on: database, events, live updates, work loops, problems. */
@NullMarked
package dev.ordinator.platform;

import org.jspecify.annotations.NullMarked;
