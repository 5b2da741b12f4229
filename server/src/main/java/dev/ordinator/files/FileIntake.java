package dev.ordinator.files;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.files.FileStore.FileHead;
import dev.ordinator.files.FileStore.FileRow;
import dev.ordinator.files.FileStore.RowState;
import dev.ordinator.files.SheetParser.SheetRow;
import dev.ordinator.intake.Cancellations;
import dev.ordinator.intake.Intake;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/**
 * Orders from files: every row is checked and shown before anything is taken; what is good is
 * taken, what is not waits to be corrected; and what was taken can be taken back while none of it
 * was released.
 */
@Service
class FileIntake {
  private static final int BATCH = 500;
  private static final Pattern PLACE = Pattern.compile("rows\\[(\\d+)]\\.(\\w+)");

  private final FileStore store;
  private final Channels channels;
  private final Connectors connectors;
  private final Intake intake;
  private final Cancellations cancellations;
  private final Orders orders;
  private final Transactions transactions;
  private final Events events;
  private final JsonMapper json;

  FileIntake(
      FileStore store,
      Channels channels,
      Connectors connectors,
      Intake intake,
      Cancellations cancellations,
      Orders orders,
      Transactions transactions,
      Events events,
      JsonMapper json) {
    this.store = store;
    this.channels = channels;
    this.connectors = connectors;
    this.intake = intake;
    this.cancellations = cancellations;
    this.orders = orders;
    this.transactions = transactions;
    this.events = events;
    this.json = json;
  }

  /**
   * Reads a file in, all of it or nothing. A mapping remembered for its headers is applied at once.
   */
  long upload(long channelId, String name, byte[] content, String actor) {
    Channel channel = channels.byId(channelId);
    if (channel.kind() != ChannelKind.SPREADSHEET) {
      throw Problem.conflict(channel.name() + " takes no files");
    }
    long file = transactions.get(() -> read(channelId, name, content, actor));
    FileHead head = store.file(file);
    store.remembered(channelId, head.headers()).ifPresent(m -> map(file, m, actor));
    return file;
  }

  private long read(long channelId, String name, byte[] content, String actor) {
    List<List<String>> headers = new ArrayList<>();
    List<SheetRow> batch = new ArrayList<>();
    List<Long> file = new ArrayList<>();
    SheetParser.read(
        content,
        row -> {
          if (headers.isEmpty()) {
            headers.add(row.cells());
            file.add(store.addFile(channelId, name, row.cells(), actor));
          } else {
            batch.add(row);
          }
          if (batch.size() == BATCH) {
            store.addRows(file.getFirst(), batch);
            batch.clear();
          }
        });
    if (file.isEmpty()) {
      throw Problem.invalid("file", "the file is empty");
    }
    store.addRows(file.getFirst(), batch);
    return file.getFirst();
  }

  /** Says which column is which, and checks every row. */
  void map(long fileId, SheetMapping mapping, String actor) {
    FileHead file = store.file(fileId);
    requireOpen(file);
    mapping.check(file.headers());
    transactions.run(() -> store.setMapping(file, mapping, actor));
    Integer after = null;
    Slice<FileRow> page;
    do {
      page = store.rows(fileId, null, after);
      List<FileRow> rows = page.rows();
      if (!rows.isEmpty()) {
        store.setOrderRefs(
            fileId, rows, rows.stream().map(r -> orderRef(mapping, r.cells(), r.rowNo())).toList());
        after = rows.getLast().rowNo();
      }
    } while (page.next() != null);
    for (String ref : store.orderRefs(fileId, List.of(RowState.values()))) {
      check(store.file(fileId), mapping, ref);
    }
    store.setState(fileId, "CHECKED");
  }

  /** A row without an order's name is an order of its own, and refused for it. */
  private static String orderRef(SheetMapping mapping, List<String> cells, int row) {
    String ref = mapping.cell(SheetField.ORDER, cells);
    return ref.isEmpty() ? "row " + row : Texts.cut(ref, 100);
  }

  /** Corrects a row's cells; its order is checked again. */
  void correct(long fileId, int rowNo, List<String> cells) {
    FileHead file = store.file(fileId);
    requireOpen(file);
    SheetMapping mapping = required(file);
    FileRow before =
        store.rows(fileId, null, rowNo - 1).rows().stream()
            .filter(r -> r.rowNo() == rowNo)
            .findFirst()
            .orElseThrow(() -> Problem.notFound("row " + rowNo));
    if (before.state() == RowState.TAKEN) {
      throw Problem.conflict("row " + rowNo + " has been taken in already");
    }
    String ref = orderRef(mapping, cells, rowNo);
    transactions.run(() -> {
      store.setCells(fileId, rowNo, cells, ref);
      check(file, mapping, ref);
      if (!ref.equals(before.orderRef()) && !store.rowsOf(fileId, before.orderRef()).isEmpty()) {
        check(file, mapping, before.orderRef());
      }
    });
  }

  /**
   * Takes every order whose rows are all good.
   *
   * @return how many orders were taken in or changed
   */
  int take(long fileId, String actor) {
    FileHead file = store.file(fileId);
    requireOpen(file);
    SheetMapping mapping = required(file);
    Channel channel = channels.byId(file.channelId());
    int taken = 0;
    for (String ref : store.orderRefs(fileId, List.of(RowState.NEW, RowState.CHANGED))) {
      List<FileRow> rows = store.rowsOf(fileId, ref);
      String message = message(file, mapping, ref, rows);
      try {
        IncomingOrder order = connectors.of(channel).read(channel, message);
        intake.take(
            channel,
            order,
            message,
            "file " + file.name() + ", row " + rows.getFirst().rowNo() + ", by " + actor);
        Long id = intake.idOf(channel, order.header().externalId()).orElse(null);
        store.setRows(fileId, ref, RowState.TAKEN, id);
        taken++;
      } catch (Unreadable e) {
        refuse(file, mapping, ref, rows, e);
      }
    }
    store.setState(fileId, "TAKEN");
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        actor,
        taken + " orders taken from " + file.name(),
        "");
    return taken;
  }

  /**
   * Takes back what a file brought: its orders are cancelled, and the file can be brought again.
   */
  void undo(long fileId, String actor) {
    FileHead file = store.file(fileId);
    if (!file.state().equals("TAKEN")) {
      throw Problem.conflict("nothing of " + file.name() + " has been taken in");
    }
    transactions.run(() -> {
      List<OrderHead> brought = store.ordersOf(fileId).stream().map(orders::lock).toList();
      for (OrderHead order : brought) {
        boolean gone =
            order.stage().compareTo(Stage.RELEASED) >= 0 && order.stage() != Stage.CANCELLED;
        if (gone) {
          throw Problem.conflict(
              order.number() + " has been released; a file can be undone while none of it was");
        }
      }
      brought.forEach(order -> {
        cancellations.undone(order, actor, "file " + file.name() + " was taken back");
        orders.setAside(order.id(), "undone " + fileId);
      });
      store.setState(fileId, "UNDONE");
    });
    events.record(
        EventKind.CHANNEL_CHANGED, null, null, actor, file.name() + " was taken back", "");
  }

  void discard(long fileId) {
    requireOpen(store.file(fileId));
    store.setState(fileId, "DISCARDED");
  }

  private void check(FileHead file, SheetMapping mapping, String ref) {
    List<FileRow> rows = store.rowsOf(file.id(), ref);
    if (rows.stream().anyMatch(r -> r.state() == RowState.TAKEN)) {
      return;
    }
    Channel channel = channels.byId(file.channelId());
    Connector connector = connectors.of(channel);
    try {
      IncomingOrder order = connector.read(channel, message(file, mapping, ref, rows));
      RowState state =
          store
              .known(channel.id(), order.header().externalId())
              .map(known ->
                  known.changesTo(order.content()).isEmpty() ? RowState.SAME : RowState.CHANGED)
              .orElse(RowState.NEW);
      store.setRows(file.id(), ref, state, null);
    } catch (Unreadable e) {
      refuse(file, mapping, ref, rows, e);
    }
  }

  private void refuse(
      FileHead file, SheetMapping mapping, String ref, List<FileRow> rows, Unreadable why) {
    Matcher place = PLACE.matcher(why.place());
    if (!place.matches()) {
      boolean noName = why.place().equals("order");
      store.refuse(
          file.id(),
          ref,
          rows.getFirst().rowNo(),
          noName ? mapping.columns().get(SheetField.ORDER) : null,
          (noName ? "order " : "") + Texts.of(why));
      return;
    }
    SheetField field = field(place.group(2));
    store.refuse(
        file.id(),
        ref,
        rows.get(Integer.parseInt(place.group(1))).rowNo(),
        mapping.columns().get(field),
        field.title() + " " + Texts.of(why));
  }

  /**
   * Rows as the connector reads them: cells under their fields' names, numbers and days as ours.
   */
  private String message(FileHead file, SheetMapping mapping, String ref, List<FileRow> rows) {
    Map<String, Object> order = new LinkedHashMap<>();
    order.put("order", ref.startsWith("row ") ? "" : ref);
    order.put("revision", file.uploadedAt().toEpochMilli());
    order.put("uploadedAt", file.uploadedAt().toString());
    order.put("rows", rows.stream().map(r -> fields(mapping, r.cells())).toList());
    return json.writeValueAsString(order);
  }

  private static Map<String, Object> fields(SheetMapping mapping, List<String> cells) {
    Map<String, Object> fields = new LinkedHashMap<>();
    for (SheetField field : SheetField.values()) {
      String cell = mapping.cell(field, cells);
      Object value =
          switch (field) {
            case PRICE, SHIPPING, DISCOUNT -> mapping.number(cell);
            case QUANTITY -> whole(mapping.number(cell));
            case PLACED, ARRIVE_BY -> {
              String day = cell.isEmpty() ? "" : mapping.day(cell);
              yield day == null ? cell : day;
            }
            case COUNTRY -> cell.isEmpty() ? mapping.country() : cell;
            case PAYMENT -> cell.isEmpty() ? mapping.payment() : cell;
            default -> cell;
          };
      fields.put(name(field), value);
    }
    return fields;
  }

  /** A whole number, also if a spreadsheet wrote it as 3.0; what is none stays as it is. */
  private static Object whole(String number) {
    String bare = number.replaceFirst("\\.0+$", "");
    return bare.matches("-?\\d{1,15}") ? (Object) Long.valueOf(bare) : number;
  }

  private static String name(SheetField field) {
    return field == SheetField.ARRIVE_BY ? "arriveBy" : field.title();
  }

  private static SheetField field(String name) {
    for (SheetField field : SheetField.values()) {
      if (name(field).equals(name)) {
        return field;
      }
    }
    throw new IllegalArgumentException("no field " + name);
  }

  private static SheetMapping required(FileHead file) {
    SheetMapping mapping = file.mapping();
    if (mapping == null) {
      throw Problem.conflict("say first which column is which");
    }
    return mapping;
  }

  private static void requireOpen(FileHead file) {
    if (file.state().equals("UNDONE") || file.state().equals("DISCARDED")) {
      throw Problem.conflict(file.name() + " was taken back or discarded; bring it again");
    }
  }
}
