/** Spreadsheet files, in and out. */
@NullMarked
package dev.ordinator.sheets;

import org.jspecify.annotations.NullMarked;
