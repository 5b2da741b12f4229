package dev.ordinator.files;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.files.FileStore.FileHead;
import dev.ordinator.files.FileStore.FileRow;
import dev.ordinator.files.FileStore.FileState;
import dev.ordinator.files.FileStore.RowState;
import dev.ordinator.files.SheetOrders.Fault;
import dev.ordinator.intake.BulkIntake;
import dev.ordinator.intake.BulkIntake.Arrival;
import dev.ordinator.intake.BulkIntake.Outcome;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoop;
import dev.ordinator.platform.WorkLoops;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/**
 * Checks and takes the orders of files, a batch at a time, each in one transaction with what it
 * says of its rows: a file can be left to it, and if this instance dies another goes on where it
 * stood.
 */
@Service
class FileWork {
  private static final int BATCH = 500;
  private static final Logger LOG = LoggerFactory.getLogger(FileWork.class);

  private final FileStore store;
  private final SheetOrders sheets;
  private final Channels channels;
  private final Connectors connectors;
  private final BulkIntake intake;
  private final Transactions transactions;
  private final Events events;
  private final WorkLoop loop;

  FileWork(
      FileStore store,
      SheetOrders sheets,
      Channels channels,
      Connectors connectors,
      BulkIntake intake,
      Transactions transactions,
      Events events,
      WorkLoops loops) {
    this.store = store;
    this.sheets = sheets;
    this.channels = channels;
    this.connectors = connectors;
    this.intake = intake;
    this.transactions = transactions;
    this.events = events;
    this.loop = loops.add("files", this::workOnOne);
  }

  /** Whatever reading an order gave: the order, or what is wrong with it. */
  private record Read(
      List<FileRow> rows, String message, @Nullable IncomingOrder order, @Nullable Fault fault) {
    int firstRow() {
      return rows.getFirst().firstRow();
    }

    IncomingOrder required() {
      return Objects.requireNonNull(order);
    }
  }

  /** Begins at once with what can be done at once; a small file is done when this returns. */
  void begin(long fileId) {
    work(fileId, BATCH);
    loop.nudge();
  }

  private boolean workOnOne() {
    Optional<Long> next = store.nextToWorkOn();
    next.ifPresent(file -> work(file, BATCH));
    return next.isPresent();
  }

  /** One batch; if it fails as a whole, its orders one by one, so that one spoils no other. */
  private void work(long fileId, int most) {
    AtomicReference<List<List<FileRow>>> batch = new AtomicReference<>(List.of());
    try {
      transactions.run(() -> workOnBatch(fileId, most, batch));
    } catch (RuntimeException e) {
      if (batch.get().isEmpty()) {
        throw e;
      }
      if (most == 1) {
        LOG.error("an order of file {} could not be worked on", fileId, e);
        int row = batch.get().getFirst().getFirst().rowNo();
        transactions.run(() ->
            store.refuse(
                fileId,
                batch.get().getFirst().getFirst().firstRow(),
                new Fault(row, null, "could not be taken in; see the application’s log")));
        return;
      }
      for (int i = 0; i < batch.get().size(); i++) {
        work(fileId, 1);
      }
    }
  }

  private void workOnBatch(long fileId, int most, AtomicReference<List<List<FileRow>>> batch) {
    Optional<FileState> state = store.lockForWork(fileId);
    if (state.isEmpty()) {
      return;
    }
    FileHead file = store.file(fileId);
    SheetMapping mapping = Objects.requireNonNull(file.mapping());
    boolean checking = state.get() == FileState.CHECKING;
    List<List<FileRow>> orders =
        store.orders(
            fileId,
            checking ? List.of(RowState.UNCHECKED) : List.of(RowState.NEW, RowState.CHANGED),
            most);
    batch.set(orders);
    Channel channel = channels.byId(file.channelId());
    List<Read> read = orders.stream().map(rows -> read(file, mapping, channel, rows)).toList();
    for (Read r : read) {
      if (r.fault() != null) {
        store.refuse(fileId, r.firstRow(), r.fault());
      }
    }
    List<Read> good = read.stream().filter(r -> r.fault() == null).toList();
    if (checking) {
      check(file, channel, good);
    } else {
      take(file, channel, good);
    }
    if (orders.size() < most) {
      finish(file, checking);
    }
  }

  private Read read(FileHead file, SheetMapping mapping, Channel channel, List<FileRow> rows) {
    String message = sheets.message(file, mapping, rows);
    if (rows.stream().anyMatch(r -> r.state() == RowState.TAKEN)) {
      FileRow late =
          rows.stream().filter(r -> r.state() != RowState.TAKEN).findFirst().orElseThrow();
      return new Read(
          rows,
          message,
          null,
          new Fault(late.rowNo(), null, "its order has been taken in already"));
    }
    try {
      return new Read(rows, message, connectors.of(channel).read(channel, message), null);
    } catch (Unreadable e) {
      return new Read(rows, message, null, SheetOrders.fault(mapping, rows, e));
    }
  }

  private void check(FileHead file, Channel channel, List<Read> orders) {
    Map<String, OrderContent> known =
        store.known(
            channel.id(), orders.stream().map(r -> r.required().header().externalId()).toList());
    Map<RowState, List<Integer>> found = new EnumMap<>(RowState.class);
    for (Read r : orders) {
      OrderContent before = known.get(r.required().header().externalId());
      RowState state =
          before == null
              ? RowState.NEW
              : before.changesTo(r.required().content()).isEmpty()
                  ? RowState.SAME
                  : RowState.CHANGED;
      found.computeIfAbsent(state, s -> new ArrayList<>()).add(r.firstRow());
    }
    found.forEach((state, firstRows) -> store.setState(file.id(), firstRows, state));
  }

  private void take(FileHead file, Channel channel, List<Read> orders) {
    List<Outcome> outcomes =
        intake.take(
            channel,
            orders.stream()
                .map(r ->
                    new Arrival(
                        r.required(),
                        r.message(),
                        "file %s, row %d, by %s"
                            .formatted(file.name(), r.rows().getFirst().rowNo(), file.acting())))
                .toList());
    store.setTaken(
        file.id(),
        orders.stream().map(Read::firstRow).toList(),
        outcomes.stream().map(Outcome::id).toList());
  }

  private void finish(FileHead file, boolean checking) {
    store.setState(file.id(), checking ? FileState.CHECKED : FileState.TAKEN);
    if (!checking) {
      events.record(
          EventKind.CHANNEL_CHANGED,
          null,
          null,
          file.acting(),
          store.ordersOf(file.id()) + " orders taken from " + file.name(),
          "");
    }
  }
}
