package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.node.ObjectNode;

/** A node hands over so many consignments a day; what is more leaves on its next day. */
class FullDaysTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeEach
  void onlyStillwaterHasBrushes() {
    here.world().scrapAll("BRUSH");
    here.world()
        .bean(StockLedger.class)
        .adjust(
            here.itemId("BRUSH"), here.nodeId("STW"), 20, StockLedger.Reason.RECEIPT, "test", "");
  }

  @Test
  void whatADayHasNoPlaceForIsPlannedForTheNextDays() {
    capacity(1);
    for (int i = 1; i <= 3; i++) {
      here.world().shop().place(Sample.order("FD" + i, "BRUSH", 1));
      here.awaitStage("FD" + i, "RELEASED");
    }
    assertThat(leaves("FD2")).isAfter(leaves("FD1"));
    assertThat(leaves("FD3")).as("two days are full").isAfter(leaves("FD2"));
  }

  @Test
  void whatFoundNoPlaceForWeeksIsTriedAtOnceWhenThereAreMore() {
    capacity(0);
    here.world().shop().place(Sample.order("FD4", "BRUSH", 1));
    here.awaitMark("FD4", "nodes full");
    capacity(null);
    here.awaitStage("FD4", "RELEASED");
  }

  private static void capacity(@Nullable Integer consignments) {
    String path = "/api/network/nodes/STW/terms";
    ObjectNode terms = (ObjectNode) here.mara().read(path);
    terms.put("capacityPerDay", consignments);
    assertThat(here.mara().change("PUT", path, terms).status()).isEqualTo(204);
  }

  private static LocalDate leaves(String externalId) {
    return here.world()
        .db()
        .select(CONSIGNMENT.HAND_OVER_ON)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(SALES_ORDER.EXTERNAL_ID.eq(externalId))
        .fetchSingle()
        .value1();
  }
}
