/**
 * The Orders view: worklist, inspector, find-anything. Reads across features, changes through them.
 */
@NullMarked
package dev.ordinator.worklist;

import org.jspecify.annotations.NullMarked;
