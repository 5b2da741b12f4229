/** Orders from spreadsheets: read, mapped, looked at row by row, then taken in or not. */
@NullMarked
package dev.ordinator.files;

import org.jspecify.annotations.NullMarked;
