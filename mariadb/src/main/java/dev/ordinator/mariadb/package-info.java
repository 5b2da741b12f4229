/** A throw-away MariaDB for builds and tests. */
package dev.ordinator.mariadb;
