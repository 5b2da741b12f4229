package dev.ordinator.worklist;

import static dev.ordinator.schema.Tables.APP_USER;
import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.PARCEL;
import static dev.ordinator.schema.Tables.PARCEL_SCAN;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static java.util.Objects.requireNonNullElse;

import dev.ordinator.backorders.OrderWaits;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.intake.Amendments;
import dev.ordinator.network.Closures;
import dev.ordinator.orders.OrderPromises;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.platform.EntityTag;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.worklist.Worklist.Row;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** One order in depth. */
@Component
class OrderSheets {
  private final DSLContext db;
  private final Worklist worklist;
  private final OrderGoods goods;
  private final Amendments amendments;
  private final OrderWaits waits;
  private final OrderPromises promises;
  private final Events events;
  private final OrdinatorSettings settings;
  private final JsonMapper json;

  OrderSheets(
      DSLContext db,
      Worklist worklist,
      OrderGoods goods,
      Amendments amendments,
      OrderWaits waits,
      OrderPromises promises,
      Events events,
      OrdinatorSettings settings,
      JsonMapper json) {
    this.db = db;
    this.worklist = worklist;
    this.goods = goods;
    this.amendments = amendments;
    this.waits = waits;
    this.promises = promises;
    this.events = events;
    this.settings = settings;
    this.json = json;
  }

  record Scan(String code, String place, Instant at) {}

  record Parcel(long id, String tracking, String sscc, String trackingUrl, List<Scan> scans) {}

  /**
   * @param carrier empty: the buyer collects it at the node
   * @param nodeClosed whether it is to leave on a day on which its node is closed
   */
  record Consignment(
      long id,
      String number,
      String node,
      ConsignmentState state,
      String carrier,
      String service,
      LocalDate handOverOn,
      LocalDate shipBy,
      LocalDate arrivalOn,
      long units,
      boolean nodeClosed,
      List<Parcel> parcels) {}

  record OpenSnag(
      long id,
      SnagCause cause,
      String title,
      String detail,
      @Nullable Long channelId,
      @Nullable Long listingId,
      @Nullable Long itemId,
      @Nullable Long outboxId) {}

  /**
   * What an order is worth.
   *
   * @param tax of goods and shipping, in minor units of the order's currency; null: not known yet
   * @param rate base currency for one unit of the order's; null: not known yet
   * @param baseTotal minor units of the base currency
   * @param payWithinDays null: due at once
   */
  record Figures(
      boolean pricesWithTax,
      long shippingCharge,
      long discount,
      @Nullable Long tax,
      @Nullable BigDecimal rate,
      @Nullable LocalDate rateDay,
      long baseTotal,
      String baseCurrency,
      @Nullable Integer payWithinDays,
      List<OrderGoods.Tender> tenders) {}

  /**
   * @param shipToTag sent back as {@code If-Match} when the address is corrected
   * @param billTo null: as ship-to
   * @param assignedTo the name by which the colleague logs in who looks after it
   * @param list on which it stands for people to work off
   * @param pickUpNode where the buyer collects it; null: it is sent
   * @param amendments changes by the channel that wait for a person
   * @param promises days of arrival that the buyer was told, the last one first
   */
  record Sheet(
      Row order,
      Address shipTo,
      String shipToTag,
      @Nullable Address billTo,
      String email,
      String phone,
      String site,
      String team,
      @Nullable String assignedTo,
      @Nullable String list,
      boolean fulfilledByChannel,
      @Nullable String pickUpNode,
      String serviceWording,
      @Nullable LocalDate arriveBy,
      PaymentState payment,
      String paymentMethod,
      Figures figures,
      int priority,
      String instructions,
      String giftMessage,
      List<OrderGoods.Line> lines,
      List<Amendments.Waiting> amendments,
      List<Consignment> consignments,
      List<OpenSnag> snags,
      List<OrderWaits.WaitsFor> waitsFor,
      List<OrderPromises.Given> promises,
      List<Events.Entry> timeline) {}

  Sheet sheet(long id) {
    Row row =
        worklist.byIds(List.of(id)).stream()
            .findFirst()
            .orElseThrow(() -> Problem.notFound("order " + id));
    var o = db.selectFrom(SALES_ORDER).where(SALES_ORDER.ID.eq(id)).fetchSingle();
    Address shipTo =
        new Address(
            o.getShipName(),
            o.getShipStreet(),
            o.getShipPostcode(),
            o.getShipCity(),
            o.getShipCountry());
    return new Sheet(
        row,
        shipTo,
        EntityTag.of(shipTo),
        o.getBillTo() == null ? null : json.readValue(o.getBillTo(), Address.class),
        o.getEmail(),
        o.getPhone(),
        o.getSite(),
        o.getTeam(),
        o.getAssignedTo() == null ? null : username(o.getAssignedTo()),
        o.getListName(),
        o.getFulfilledBy().equals("CHANNEL"),
        o.getPickUpNode(),
        o.getServiceWording(),
        o.getArriveBy(),
        PaymentState.valueOf(o.getPaymentState()),
        o.getPaymentMethod(),
        new Figures(
            o.getPricesWithTax(),
            o.getUnits() == 0 ? 0 : o.getShippingCharge(),
            o.getUnits() == 0 ? 0 : o.getDiscount(),
            o.getTax(),
            o.getRate(),
            o.getRateDay(),
            o.getBaseTotal(),
            settings.baseCurrency(),
            o.getPayWithinDays(),
            goods.tenders(id)),
        o.getPriority(),
        o.getInstructions(),
        o.getGiftMessage(),
        goods.lines(id),
        amendments.ofOrder(id),
        consignments(id),
        snags(id),
        waits.of(id),
        promises.of(id),
        events.ofOrder(id));
  }

  private String username(long userId) {
    return db.select(APP_USER.USERNAME)
        .from(APP_USER)
        .where(APP_USER.ID.eq(userId))
        .fetchSingle()
        .value1();
  }

  private List<Consignment> consignments(long orderId) {
    Map<Long, List<Parcel>> parcels = parcels(orderId);
    return db.select(
            CONSIGNMENT.ID,
            CONSIGNMENT.NUMBER,
            NODE.NAME,
            CONSIGNMENT.STATE,
            CARRIER.NAME,
            CONSIGNMENT.SERVICE,
            CONSIGNMENT.HAND_OVER_ON,
            CONSIGNMENT.SHIP_BY,
            CONSIGNMENT.ARRIVAL_ON,
            CONSIGNMENT.UNITS,
            Closures.CLOSED_THEN)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .leftJoin(CARRIER)
        .on(CARRIER.ID.eq(CONSIGNMENT.CARRIER_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .orderBy(CONSIGNMENT.ID)
        .fetch(r ->
            new Consignment(
                r.value1(),
                r.value2(),
                r.value3(),
                ConsignmentState.valueOf(r.value4()),
                requireNonNullElse(r.value5(), ""),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9(),
                r.value10(),
                r.value11(),
                parcels.getOrDefault(r.value1(), List.of())));
  }

  private Map<Long, List<Parcel>> parcels(long orderId) {
    Map<Long, List<Scan>> scans =
        db.select(PARCEL_SCAN.PARCEL_ID, PARCEL_SCAN.CODE, PARCEL_SCAN.PLACE, PARCEL_SCAN.AT)
            .from(PARCEL_SCAN)
            .join(PARCEL)
            .on(PARCEL.ID.eq(PARCEL_SCAN.PARCEL_ID))
            .join(CONSIGNMENT)
            .on(CONSIGNMENT.ID.eq(PARCEL.CONSIGNMENT_ID))
            .where(CONSIGNMENT.ORDER_ID.eq(orderId))
            .orderBy(PARCEL_SCAN.AT)
            .collect(
                Collectors.groupingBy(
                    r -> r.value1(),
                    Collectors.mapping(
                        r -> new Scan(r.value2(), r.value3(), r.value4()), Collectors.toList())));
    return db.select(
            PARCEL.CONSIGNMENT_ID, PARCEL.ID, PARCEL.TRACKING, PARCEL.SSCC, CARRIER.TRACKING_URL)
        .from(PARCEL)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(PARCEL.CONSIGNMENT_ID))
        .join(CARRIER)
        .on(CARRIER.ID.eq(CONSIGNMENT.CARRIER_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .orderBy(PARCEL.ID)
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.mapping(
                    r ->
                        new Parcel(
                            r.value2(),
                            r.value3(),
                            r.value4(),
                            r.value5().replace("{tracking}", r.value3()),
                            scans.getOrDefault(r.value2(), List.of())),
                    Collectors.toList())));
  }

  private List<OpenSnag> snags(long orderId) {
    return db.select(
            SNAG.ID,
            SNAG.CAUSE,
            SNAG.TITLE,
            SNAG.DETAIL,
            SNAG.CHANNEL_ID,
            SNAG.LISTING_ID,
            SNAG.ITEM_ID,
            SNAG.OUTBOX_ID)
        .from(SNAG)
        .join(SNAG_ORDER)
        .on(SNAG_ORDER.SNAG_ID.eq(SNAG.ID))
        .where(SNAG_ORDER.ORDER_ID.eq(orderId))
        .and(SNAG.CLOSED_AT.isNull())
        .orderBy(SNAG.ID)
        .fetch(r ->
            new OpenSnag(
                r.value1(),
                SnagCause.valueOf(r.value2()),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8()));
  }
}
