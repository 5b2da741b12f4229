package dev.ordinator.testing;

import tools.jackson.databind.JsonNode;

/** Packs as a person does: scans each unit, asks for the label, hands over. */
public final class Packer {
  private record Scan(String code) {}

  private Packer() {}

  /** Takes an order's consignments from wherever they stand to the carrier's hands. */
  public static void packAndHandOver(TestWorld world, long orderId) {
    packAndHandOver(world.visitor("mara"), orderId);
  }

  public static void packAndHandOver(Visitor who, long orderId) {
    for (JsonNode c : who.read("/api/orders/" + orderId).path("consignments")) {
      String path = "/api/dispatch/consignments/" + c.path("id").asLong();
      String state = c.path("state").asString();
      if (state.equals("RELEASED")) {
        scanAll(who, path);
        require(who.post(path + "/label", ""));
      }
      if (state.equals("RELEASED") || state.equals("PACKED")) {
        require(who.post(path + "/hand-over", ""));
      }
    }
  }

  /** Takes a consignment until it is closed. */
  public static void pack(Visitor who, long consignment) {
    String path = "/api/dispatch/consignments/" + consignment;
    scanAll(who, path);
    require(who.post(path + "/label", ""));
  }

  /** Scans what is not in the parcel yet. */
  public static void scanAll(Visitor who, String consignment) {
    for (JsonNode line : who.read(consignment).path("lines")) {
      for (long i = line.path("packed").asLong(); i < line.path("quantity").asLong(); i++) {
        require(who.post(consignment + "/scans", new Scan(line.path("sku").asString())));
      }
    }
  }

  private static void require(Visitor.Answer answer) {
    if (answer.status() != 200) {
      throw new AssertionError(answer);
    }
  }
}
