package dev.ordinator.files;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.COLUMN_MAPPING;
import static dev.ordinator.schema.Tables.INTAKE_FILE;
import static dev.ordinator.schema.Tables.INTAKE_ROW;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.countDistinct;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.files.SheetOrders.Fault;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.RowBatch;
import dev.ordinator.platform.Slice;
import dev.ordinator.platform.Texts;
import dev.ordinator.sheets.CellType;
import dev.ordinator.sheets.SheetRow;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** Order files and their rows. */
@Repository
class FileStore {
  private static final int PAGE = 200;

  /** What a file brings waits while its connection is paused. */
  private static final Condition MAY_TAKE =
      INTAKE_FILE
          .STATE
          .eq(FileState.TAKING.name())
          .andNotExists(
              selectOne()
                  .from(CHANNEL)
                  .where(CHANNEL.ID.eq(INTAKE_FILE.CHANNEL_ID))
                  .and(CHANNEL.PAUSED.isTrue()));

  private static final List<String> AT_WORK =
      List.of(FileState.CHECKING.name(), FileState.TAKING.name());

  /**
   * Gives rows the order that they name, each order the number of its first row, and has them
   * checked. A row that names none is an order of its own, and refused for it.
   */
  private static final String SORT =
      """
      update intake_row r
        join (select row_no, ref, min(row_no) over (partition by ref) as first_row
              from (select row_no,
                      coalesce(nullif(left(trim(json_value(cells, {0})), 100), ''), concat('row ', row_no)) as ref
                    from intake_row where file_id = {1}) named) sorted
          on sorted.row_no = r.row_no
      set r.order_ref = sorted.ref, r.first_row = sorted.first_row,
        r.state = if(r.state = 'TAKEN', r.state, 'UNCHECKED'), r.problem = '', r.column_no = null
      where r.file_id = {1}
      """;

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

  /** How far a file has come. */
  enum FileState {
    UPLOADED,
    /** Its rows are being checked, in the background if there are many. */
    CHECKING,
    CHECKED,
    /** Its good orders are being taken in, likewise. */
    TAKING,
    TAKEN,
    UNDONE,
    DISCARDED
  }

  /**
   * @param acting on whose behalf it is, or was, worked on
   * @param styles how its columns may be written
   * @param workedTo the first row of the last order that was worked on
   */
  record FileHead(
      long id,
      long channelId,
      String name,
      List<String> headers,
      @JsonIgnore ColumnStyles styles,
      @Nullable SheetMapping mapping,
      FileState state,
      int rows,
      String acting,
      int workedTo,
      String uploadedBy,
      Instant uploadedAt) {

    /** How its fields are written; empty until it was said which column is which. */
    Optional<FileStyles> fields() {
      return Optional.ofNullable(mapping).map(m -> FileStyles.of(m, styles));
    }
  }

  /**
   * @param types a letter for each cell, of what it is; missing ones are texts
   * @param firstRow the first row of the same order
   * @param columnNo the column at fault, from 0; null: the row as a whole
   * @param orderId ours that was made of it; null: none was
   */
  record FileRow(
      int rowNo,
      List<String> cells,
      String types,
      String orderRef,
      int firstRow,
      RowState state,
      @Nullable Integer columnNo,
      String problem,
      @Nullable Long orderId) {}

  long addFile(long channelId, String name, List<String> headers, String actor) {
    return db.insertInto(INTAKE_FILE)
        .set(INTAKE_FILE.CHANNEL_ID, channelId)
        .set(INTAKE_FILE.NAME, Texts.cut(name, 200))
        .set(INTAKE_FILE.HEADERS, json.writeValueAsString(headers))
        .set(INTAKE_FILE.STATE, FileState.UPLOADED.name())
        .set(INTAKE_FILE.UPLOADED_BY, actor)
        .set(INTAKE_FILE.UPLOADED_AT, clock.instant())
        .returningResult(INTAKE_FILE.ID)
        .fetchSingle()
        .value1();
  }

  /** Says how a file's columns may be written, once all of its rows were read. */
  void setStyles(long file, ColumnStyles styles) {
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.STYLES, json.writeValueAsString(styles))
        .where(INTAKE_FILE.ID.eq(file))
        .execute();
  }

  /**
   * What an order comes to.
   *
   * @param value minor units of the channel's currency
   */
  record Worth(long units, long value) {}

  /** Keeps what orders come to, by their first rows. */
  void setWorth(long file, Map<Integer, Worth> worth) {
    if (!worth.isEmpty()) {
      db.batched(c ->
          worth.forEach((firstRow, its) ->
              c.dsl()
                  .update(INTAKE_ROW)
                  .set(INTAKE_ROW.UNITS, its.units())
                  .set(INTAKE_ROW.VALUE, its.value())
                  .where(INTAKE_ROW.FILE_ID.eq(file))
                  .and(INTAKE_ROW.ROW_NO.eq(firstRow))
                  .execute()));
    }
  }

  /**
   * What a file's orders come to.
   *
   * @param orders that could be read
   */
  record Sums(int orders, long units, long value) {}

  Sums sums(long file) {
    return db.select(count(), sum(INTAKE_ROW.UNITS), sum(INTAKE_ROW.VALUE))
        .from(INTAKE_ROW)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.UNITS.isNotNull())
        .and(INTAKE_ROW.ROW_NO.eq(INTAKE_ROW.FIRST_ROW))
        .and(INTAKE_ROW.STATE.notIn(RowState.UNCHECKED.name(), RowState.REFUSED.name()))
        .fetchSingle(r ->
            r.value1() == 0
                ? new Sums(0, 0, 0)
                : new Sums(r.value1(), r.value2().longValueExact(), r.value3().longValueExact()));
  }

  /** Remarks on a good row, for a person to look at. */
  void remark(long file, int row, @Nullable Integer column, String remark) {
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.PROBLEM, Texts.cut(remark, 400))
        .set(INTAKE_ROW.COLUMN_NO, column)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ROW_NO.eq(row))
        .execute();
  }

  /**
   * @param refs the order of each row, where the columns are known already; else empty texts
   * @param firstRows likewise, as far as rows of one order stand together
   */
  void addRows(long file, List<SheetRow> rows, List<String> refs, List<Integer> firstRows) {
    RowBatch batch = new RowBatch(db, INTAKE_ROW);
    for (int i = 0; i < rows.size(); i++) {
      Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
      row.put(INTAKE_ROW.FILE_ID, file);
      row.put(INTAKE_ROW.ROW_NO, rows.get(i).number());
      row.put(INTAKE_ROW.CELLS, json.writeValueAsString(rows.get(i).cells()));
      row.put(INTAKE_ROW.TYPES, rows.get(i).types());
      row.put(INTAKE_ROW.STATE, RowState.UNCHECKED.name());
      row.put(INTAKE_ROW.ORDER_REF, refs.get(i));
      row.put(INTAKE_ROW.FIRST_ROW, firstRows.get(i));
      batch.add(row);
    }
    batch.insert();
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.ROW_COUNT, INTAKE_FILE.ROW_COUNT.plus(rows.size()))
        .where(INTAKE_FILE.ID.eq(file))
        .execute();
  }

  /** Whether rows of one order stand apart, so that they are taken for several. */
  boolean hasOrdersApart(long file) {
    return db.fetchExists(
        selectOne()
            .from(INTAKE_ROW)
            .where(INTAKE_ROW.FILE_ID.eq(file))
            .groupBy(INTAKE_ROW.ORDER_REF)
            .having(countDistinct(INTAKE_ROW.FIRST_ROW).gt(1)));
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
                f.getStyles() == null
                    ? ColumnStyles.NONE
                    : json.readValue(f.getStyles(), ColumnStyles.class),
                f.getMapping() == null ? null : json.readValue(f.getMapping(), SheetMapping.class),
                FileState.valueOf(f.getState()),
                f.getRowCount(),
                f.getActing(),
                f.getWorkedTo(),
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

  void setState(long file, FileState state) {
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.STATE, state.name())
        .where(INTAKE_FILE.ID.eq(file))
        .execute();
  }

  /** Has a file worked on from its beginning. */
  void begin(long file, FileState state, String acting) {
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.STATE, state.name())
        .set(INTAKE_FILE.ACTING, acting)
        .set(INTAKE_FILE.WORKED_TO, 0)
        .where(INTAKE_FILE.ID.eq(file))
        .execute();
  }

  void setWorkedTo(long file, int firstRow) {
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.WORKED_TO, firstRow)
        .where(INTAKE_FILE.ID.eq(file))
        .execute();
  }

  /** A file that waits to be worked on, and that nobody works on now. */
  Optional<Long> nextToWorkOn() {
    return db.select(INTAKE_FILE.ID)
        .from(INTAKE_FILE)
        .where(INTAKE_FILE.STATE.eq(FileState.CHECKING.name()).or(MAY_TAKE))
        .orderBy(INTAKE_FILE.ID)
        .limit(1)
        .forUpdate()
        .skipLocked()
        .fetchOptional(INTAKE_FILE.ID);
  }

  /** Locks a file that is to be worked on, once nobody else works on it; empty if it is not. */
  Optional<FileHead> lockForWork(long file) {
    return db.select(INTAKE_FILE.ID)
        .from(INTAKE_FILE)
        .where(INTAKE_FILE.ID.eq(file))
        .forUpdate()
        .fetchOptional(INTAKE_FILE.ID)
        .map(this::file)
        .filter(f -> AT_WORK.contains(f.state().name()));
  }

  void setMapping(FileHead file, SheetMapping mapping, String actor) {
    String body = json.writeValueAsString(mapping.lasting());
    db.update(INTAKE_FILE)
        .set(INTAKE_FILE.MAPPING, json.writeValueAsString(mapping))
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
                INTAKE_ROW.TYPES,
                INTAKE_ROW.ORDER_REF,
                INTAKE_ROW.FIRST_ROW,
                INTAKE_ROW.STATE,
                INTAKE_ROW.COLUMN_NO,
                INTAKE_ROW.PROBLEM,
                SALES_ORDER.ID)
            .from(INTAKE_ROW)
            .leftJoin(INTAKE_FILE)
            .on(INTAKE_FILE.ID.eq(INTAKE_ROW.FILE_ID))
            .leftJoin(SALES_ORDER)
            .on(isItsOrder())
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
                    r.value4(),
                    r.value5(),
                    RowState.valueOf(r.value6()),
                    r.value7(),
                    r.value8(),
                    r.value9())),
        PAGE,
        row -> Integer.toString(row.rowNo()));
  }

  /** The next orders after a first row, each with all its rows. */
  List<List<FileRow>> orders(long file, int after, int most) {
    return orders(
        file,
        db.selectDistinct(INTAKE_ROW.FIRST_ROW)
            .from(INTAKE_ROW)
            .where(INTAKE_ROW.FILE_ID.eq(file))
            .and(INTAKE_ROW.FIRST_ROW.gt(after))
            .orderBy(INTAKE_ROW.FIRST_ROW)
            .limit(most)
            .fetch(INTAKE_ROW.FIRST_ROW));
  }

  /** Orders by their first rows, each with all its rows. */
  List<List<FileRow>> orders(long file, List<Integer> firstRows) {
    Map<Integer, List<FileRow>> orders = new LinkedHashMap<>();
    db.select(
            INTAKE_ROW.ROW_NO,
            INTAKE_ROW.CELLS,
            INTAKE_ROW.TYPES,
            INTAKE_ROW.ORDER_REF,
            INTAKE_ROW.FIRST_ROW,
            INTAKE_ROW.STATE)
        .from(INTAKE_ROW)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.FIRST_ROW.in(firstRows))
        .orderBy(INTAKE_ROW.FIRST_ROW, INTAKE_ROW.ROW_NO)
        .forEach(r ->
            orders
                .computeIfAbsent(r.value5(), n -> new ArrayList<>())
                .add(
                    new FileRow(
                        r.value1(),
                        cells(r.value2()),
                        r.value3(),
                        r.value4(),
                        r.value5(),
                        RowState.valueOf(r.value6()),
                        null,
                        "",
                        null)));
    return List.copyOf(orders.values());
  }

  /** Finds out which rows are of which order; all are to be checked. */
  void sortIntoOrders(long file, SheetMapping mapping) {
    Integer column = mapping.columns().get(SheetField.ORDER);
    db.execute(SORT, val("$[" + column + "]"), val(file));
  }

  /**
   * Likewise after one row was corrected.
   *
   * @return the first rows of the orders that it was of, and is of now
   */
  List<Integer> sortIntoOrders(
      long file, SheetMapping mapping, FileRow before, List<String> cells) {
    String named = mapping.cell(SheetField.ORDER, cells);
    String isOf = named.isEmpty() ? "row " + before.rowNo() : Texts.cut(named, 100);
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.CELLS, json.writeValueAsString(cells))
        .set(INTAKE_ROW.TYPES, typesAfter(before, cells))
        .set(INTAKE_ROW.ORDER_REF, isOf)
        .set(INTAKE_ROW.STATE, RowState.UNCHECKED.name())
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ROW_NO.eq(before.rowNo()))
        .execute();
    List<Integer> firstRows = new ArrayList<>();
    for (String ref : Stream.of(before.orderRef(), isOf).distinct().toList()) {
      Condition ofOrder = INTAKE_ROW.FILE_ID.eq(file).and(INTAKE_ROW.ORDER_REF.eq(ref));
      Integer first =
          db.select(min(INTAKE_ROW.ROW_NO)).from(INTAKE_ROW).where(ofOrder).fetchSingle().value1();
      if (first != null) {
        db.update(INTAKE_ROW).set(INTAKE_ROW.FIRST_ROW, first).where(ofOrder).execute();
        firstRows.add(first);
      }
    }
    return firstRows;
  }

  /** What a person wrote is a text; the other cells stay what they are. */
  private static String typesAfter(FileRow before, List<String> cells) {
    StringBuilder types = new StringBuilder();
    for (int i = 0; i < cells.size(); i++) {
      boolean isSame = i < before.cells().size() && before.cells().get(i).equals(cells.get(i));
      types.append((isSame ? SheetRow.type(before.types(), i) : CellType.TEXT).letter());
    }
    return types.toString();
  }

  /** Says of whole orders, by their first rows, what was found. */
  void setState(long file, List<Integer> firstRows, RowState state) {
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.STATE, state.name())
        .set(INTAKE_ROW.PROBLEM, "")
        .setNull(INTAKE_ROW.COLUMN_NO)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.FIRST_ROW.in(firstRows))
        .execute();
  }

  /** Refuses an order's rows: one is at fault, the others can't go without it. */
  void refuse(long file, int firstRow, Fault fault) {
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.STATE, RowState.REFUSED.name())
        .set(INTAKE_ROW.PROBLEM, "waits for row " + fault.row() + " of the same order")
        .setNull(INTAKE_ROW.COLUMN_NO)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.FIRST_ROW.eq(firstRow))
        .and(INTAKE_ROW.STATE.ne(RowState.TAKEN.name()))
        .execute();
    db.update(INTAKE_ROW)
        .set(INTAKE_ROW.PROBLEM, Texts.cut(fault.problem(), 400))
        .set(INTAKE_ROW.COLUMN_NO, fault.column())
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.ROW_NO.eq(fault.row()))
        .execute();
  }

  /** Orders that a channel's ids name, with what the channel last said of them. */
  Map<String, OrderContent> known(long channelId, List<String> externalIds) {
    return db.select(SALES_ORDER.EXTERNAL_ID, SALES_ORDER.CONTENT)
        .from(SALES_ORDER)
        .where(SALES_ORDER.CHANNEL_ID.eq(channelId))
        .and(SALES_ORDER.EXTERNAL_ID.in(externalIds))
        .and(SALES_ORDER.CONTENT.isNotNull())
        .fetchMap(SALES_ORDER.EXTERNAL_ID, r -> json.readValue(r.value2(), OrderContent.class));
  }

  /** Orders that came from a file. */
  List<Long> orderIds(long file) {
    return db.selectDistinct(SALES_ORDER.ID)
        .from(INTAKE_ROW)
        .join(INTAKE_FILE)
        .on(INTAKE_FILE.ID.eq(INTAKE_ROW.FILE_ID))
        .join(SALES_ORDER)
        .on(isItsOrder())
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .fetch(SALES_ORDER.ID);
  }

  /** How many orders came from a file. */
  int ordersOf(long file) {
    return db.select(countDistinct(INTAKE_ROW.FIRST_ROW))
        .from(INTAKE_ROW)
        .where(INTAKE_ROW.FILE_ID.eq(file))
        .and(INTAKE_ROW.STATE.eq(RowState.TAKEN.name()))
        .fetchSingle()
        .value1();
  }

  /** A row's order bears the name that the row gives it. */
  private static Condition isItsOrder() {
    return SALES_ORDER
        .CHANNEL_ID
        .eq(INTAKE_FILE.CHANNEL_ID)
        .and(SALES_ORDER.EXTERNAL_ID.eq(INTAKE_ROW.ORDER_REF))
        .and(INTAKE_ROW.STATE.eq(RowState.TAKEN.name()));
  }

  private List<String> cells(String kept) {
    return List.of(json.readValue(kept, String[].class));
  }

  private static String key(List<String> headers) {
    return Texts.cut(String.join("\t", headers), 700);
  }
}
