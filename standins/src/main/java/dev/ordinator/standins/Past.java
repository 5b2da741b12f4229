package dev.ordinator.standins;

import tools.jackson.databind.JsonNode;

/**
 * A past that a channel is to make up, ending now.
 *
 * @param seed the same gives the same past, for the same end
 */
record Past(int orders, int days, long seed) {
  static Past of(JsonNode request) {
    return new Past(
        request.path("orders").asInt(0),
        request.path("days").asInt(60),
        request.path("seed").asLong(0));
  }
}
