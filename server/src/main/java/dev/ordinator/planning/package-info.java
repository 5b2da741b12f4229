/** Planning cases: whole routing problems as files, solved without touching any stored data. */
@NullMarked
package dev.ordinator.planning;

import org.jspecify.annotations.NullMarked;
