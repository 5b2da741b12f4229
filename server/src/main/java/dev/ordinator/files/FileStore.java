package dev.ordinator.files;

import static dev.ordinator.schema.Tables.COLUMN_MAPPING;
import static dev.ordinator.schema.Tables.INTAKE_FILE;
import static dev.ordinator.schema.Tables.INTAKE_ROW;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.files.SheetParser.SheetRow;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Query;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** Order files and their rows. */
@Repository
class FileStore {
  private static final int PAGE = 200;

  private final DSLContext db;
  private final JsonMapper json;
  private final Clock clock;

  FileStore(DSLContext db, JsonMapper json, Clock clock) {
    this.db = db;
    this.json = json;
    this.clock = clock;
  }

  /** What has become of a row. */
  enum RowState {
    UNCHECKED,
    /** Of an order that we don't have yet. */
    NEW,
    /** Of an order that we have otherwise. */
    CHANGED,
    /** Of an order that we have just so. */
    SAME,
    REFUSED,
    TAKEN
  }

  record FileHead(
      long id,
      long channelId,
      String name,
      List<String> headers,
      @Nullable SheetMapping mapping,
      String state,
      int rows,
      String uploadedBy,
      Instant uploadedAt) {}

  /**
   * @param columnNo the column at fault, from 0; null: the row as a whole
   */
  record FileRow(
      int rowNo,
      List<String> cells,
      String orderRef,
      RowState state,
      @Nullable Integer columnNo,
      String problem,
      @Nullable Long orderId) {}

  long addFile(long channelId, String name, List<String> headers, String actor) {
    return db.insertInto(INTAKE_FILE)
        .set(INTAKE_FILE.CHANNEL_ID, channelId)
        .set(INTAKE_FILE.NAME, Texts.cut(name, 200))
        .set(INTAKE_FILE.HEADERS, json.writeValueAsString(headers))
        .set(INTAKE_FILE.STATE, "UPLOADED")
        .set(INTAKE_FILE.UPLOADED_BY, actor)
        .set(INTAKE_FILE.UPLOADED_AT, clock.instant())
        .returningResult(INTAKE_FILE.ID)
        .fetchSingle()
        .value1();
  }

  void addRows(long file, List<SheetRow> rows) {
    if (rows.isEmpty()) {
      return;
    }
    var insert =
        db.insertInto(
            INTAKE_ROW, INTAKE_ROW.FILE_ID, INTAKE_ROW.ROW_NO, INTAKE_ROW.CELLS, INTAKE_ROW.STATE);
    for (SheetRow row : rows) {
      insert =
          insert.values(
              file, row.number(), json.writeValueAsString(row.cells()), RowState.UNCHECKED.name());
    }
    insert.execute();
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.ROW_COUNT, INTAKE_FILE.ROW_COUNT.plus(rows.size()))
        .where(INTAKE_FILE.ID.eq(file))
        .execute();
  }

  FileHead file(long id) {
    return db.selectFrom(INTAKE_FILE)
        .where(INTAKE_FILE.ID.eq(id))
        .fetchOptional(f ->
            new FileHead(
                f.getId(),
                f.getChannelId(),
                f.getName(),
                List.of(json.readValue(f.getHeaders(), String[].class)),
                f.getMapping() == null ? null : json.readValue(f.getMapping(), SheetMapping.class),
                f.getState(),
                f.getRowCount(),
                f.getUploadedBy(),
                f.getUploadedAt()))
        .orElseThrow(() -> Problem.notFound("file " + id));
  }

  /** Newest first. */
  List<Long> filesOf(long channelId) {
    return db.select(INTAKE_FILE.ID)
        .from(INTAKE_FILE)
        .where(INTAKE_FILE.CHANNEL_ID.eq(channelId))
        .orderBy(INTAKE_FILE.ID.desc())
        .limit(50)
        .fetch(INTAKE_FILE.ID);
  }

  void setState(long file, String state) {
    db.update(INTAKE_FILE).set(INTAKE_FILE.STATE, state).where(INTAKE_FILE.ID.eq(file)).execute();
  }

  void setMapping(FileHead file, SheetMapping mapping, String actor) {
    String body = json.writeValueAsString(mapping);
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.MAPPING, body)
        .where(INTAKE_FILE.ID.eq(file.id()))
        .execute();
    db.insertInto(COLUMN_MAPPING)
        .set(COLUMN_MAPPING.CHANNEL_ID, file.channelId())
        .set(COLUMN_MAPPING.HEADERS, key(file.headers()))
        .set(COLUMN_MAPPING.BODY, body)
        .set(COLUMN_MAPPING.SAVED_BY, actor)
        .set(COLUMN_MAPPING.SAVED_AT, clock.instant())
        .onDuplicateKeyUpdate()
        .set(COLUMN_MAPPING.BODY, body)
        .set(COLUMN_MAPPING.SAVED_BY, actor)
        .set(COLUMN_MAPPING.SAVED_AT, clock.instant())
        .execute();
  }

  /** As files with these headers were mapped before. */
  Optional<SheetMapping> remembered(long channelId, List<String> headers) {
    return db.select(COLUMN_MAPPING.BODY)
        .from(COLUMN_MAPPING)
        .where(COLUMN_MAPPING.CHANNEL_ID.eq(channelId))
        .and(COLUMN_MAPPING.HEADERS.eq(key(headers)))
        .fetchOptional(r -> json.readValue(r.value1(), SheetMapping.class));
  }

  Map<RowState, Integer> counts(long file) {
    return db.select(INTAKE_ROW.STATE, count())
        .from(INTAKE_ROW)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .groupBy(INTAKE_ROW.STATE)
        .fetchMap(r -> RowState.valueOf(r.value1()), r -> r.value2());
  }

  Slice<FileRow> rows(long file, @Nullable RowState state, @Nullable Integer after) {
    return Slice.of(
        db.select(
                INTAKE_ROW.ROW_NO,
                INTAKE_ROW.CELLS,
                INTAKE_ROW.ORDER_REF,
                INTAKE_ROW.STATE,
                INTAKE_ROW.COLUMN_NO,
                INTAKE_ROW.PROBLEM,
                INTAKE_ROW.ORDER_ID)
            .from(INTAKE_ROW)
            .where(INTAKE_ROW.FILE_ID.eq(file))
            .and(state == null ? noCondition() : INTAKE_ROW.STATE.eq(state.name()))
            .and(INTAKE_ROW.ROW_NO.gt(after == null ? 0 : after))
            .orderBy(INTAKE_ROW.ROW_NO)
            .limit(PAGE + 1)
            .fetch(r ->
                new FileRow(
                    r.value1(),
                    cells(r.value2()),
                    r.value3(),
                    RowState.valueOf(r.value4()),
                    r.value5(),
                    r.value6(),
                    r.value7())),
        PAGE,
        row -> Integer.toString(row.rowNo()));
  }

  List<FileRow> rowsOf(long file, String orderRef) {
    return db.select(INTAKE_ROW.ROW_NO, INTAKE_ROW.CELLS, INTAKE_ROW.STATE, INTAKE_ROW.ORDER_ID)
        .from(INTAKE_ROW)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ORDER_REF.eq(orderRef))
        .orderBy(INTAKE_ROW.ROW_NO)
        .fetch(r ->
            new FileRow(
                r.value1(),
                cells(r.value2()),
                orderRef,
                RowState.valueOf(r.value3()),
                null,
                "",
                r.value4()));
  }

  /** Gives each row the order that it belongs to. */
  void setOrderRefs(long file, List<FileRow> rows, List<String> refs) {
    var updates = new ArrayList<Query>();
    for (int i = 0; i < rows.size(); i++) {
      updates.add(
          db.update(INTAKE_ROW)
              .set(INTAKE_ROW.ORDER_REF, refs.get(i))
              .where(INTAKE_ROW.FILE_ID.eq(file))
              .and(INTAKE_ROW.ROW_NO.eq(rows.get(i).rowNo())));
    }
    db.batch(updates).execute();
  }

  /** Orders of a file in the order in which they begin, by keyset. */
  List<String> orderRefs(long file, List<RowState> states) {
    return db.select(INTAKE_ROW.ORDER_REF)
        .from(INTAKE_ROW)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.STATE.in(states.stream().map(Enum::name).toList()))
        .groupBy(INTAKE_ROW.ORDER_REF)
        .orderBy(min(INTAKE_ROW.ROW_NO))
        .fetch(INTAKE_ROW.ORDER_REF);
  }

  void setRows(long file, String orderRef, RowState state, @Nullable Long orderId) {
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.STATE, state.name())
        .set(INTAKE_ROW.PROBLEM, "")
        .setNull(INTAKE_ROW.COLUMN_NO)
        .set(INTAKE_ROW.ORDER_ID, orderId)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ORDER_REF.eq(orderRef))
        .execute();
  }

  /** Refuses an order's rows: one is at fault, the others can't go without it. */
  void refuse(
      long file, String orderRef, int rowAtFault, @Nullable Integer column, String problem) {
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.STATE, RowState.REFUSED.name())
        .set(INTAKE_ROW.PROBLEM, "waits for row " + rowAtFault + " of the same order")
        .setNull(INTAKE_ROW.COLUMN_NO)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ORDER_REF.eq(orderRef))
        .execute();
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.PROBLEM, Texts.cut(problem, 400))
        .set(INTAKE_ROW.COLUMN_NO, column)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ROW_NO.eq(rowAtFault))
        .execute();
  }

  void setCells(long file, int row, List<String> cells, String orderRef) {
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.CELLS, json.writeValueAsString(cells))
        .set(INTAKE_ROW.ORDER_REF, orderRef)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ROW_NO.eq(row))
        .execute();
  }

  /** The order that a channel's id names, with what the channel last said of it. */
  Optional<OrderContent> known(long channelId, String externalId) {
    return db.select(SALES_ORDER.CONTENT)
        .from(SALES_ORDER)
        .where(SALES_ORDER.CHANNEL_ID.eq(channelId))
        .and(SALES_ORDER.EXTERNAL_ID.eq(externalId))
        .and(SALES_ORDER.CONTENT.isNotNull())
        .fetchOptional(r -> json.readValue(r.value1(), OrderContent.class));
  }

  /** Orders that came from a file and no other. */
  List<Long> ordersOf(long file) {
    return db.selectDistinct(INTAKE_ROW.ORDER_ID)
        .from(INTAKE_ROW)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.STATE.eq(RowState.TAKEN.name()))
        .and(INTAKE_ROW.ORDER_ID.isNotNull())
        .fetch(INTAKE_ROW.ORDER_ID);
  }

  private List<String> cells(String kept) {
    return List.of(json.readValue(kept, String[].class));
  }

  private static String key(List<String> headers) {
    return Texts.cut(String.join("\t", headers), 700);
  }
}
