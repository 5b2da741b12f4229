/** Customers, known by their mail addresses, and what is agreed with them. */
@NullMarked
package dev.ordinator.customers;

import org.jspecify.annotations.NullMarked;
