package dev.ordinator.core.network;

/**
 * Where a consignment goes, as zones see it.
 *
 * @param country ISO 3166-1 alpha-2
 * @param postcode as written by the country, may be empty; compared without spaces and case
 */
public record Destination(String country, String postcode) {}
