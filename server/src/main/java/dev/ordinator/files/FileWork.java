package dev.ordinator.files;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.files.FileStore.FileHead;
import dev.ordinator.files.FileStore.FileRow;
import dev.ordinator.files.FileStore.FileState;
import dev.ordinator.files.FileStore.RowState;
import dev.ordinator.files.FileStore.Worth;
import dev.ordinator.files.SheetOrders.Fault;
import dev.ordinator.intake.BulkIntake;
import dev.ordinator.intake.BulkIntake.Arrival;
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
import java.util.stream.Collectors;
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
  private static final int BATCH = 1_000;
  private static final Logger LOG = LoggerFactory.getLogger(FileWork.class);

  private final FileStore store;
  private final SheetOrders sheets;
  private final UsualPrices usual;
  private final Channels channels;
  private final Connectors connectors;
  private final BulkIntake intake;
  private final Transactions transactions;
  private final Events events;
  private final WorkLoop loop;

  FileWork(
      FileStore store,
      SheetOrders sheets,
      UsualPrices usual,
      Channels channels,
      Connectors connectors,
      BulkIntake intake,
      Transactions transactions,
      Events events,
      WorkLoops loops) {
    this.store = store;
    this.sheets = sheets;
    this.usual = usual;
    this.channels = channels;
    this.connectors = connectors;
    this.intake = intake;
    this.transactions = transactions;
    this.events = events;
    this.loop = loops.add("files", this::workOnOne);
  }

  private record Read(List<FileRow> rows, String message, IncomingOrder order) {
    int firstRow() {
      return rows.getFirst().firstRow();
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
    Optional<FileHead> locked = store.lockForWork(fileId);
    if (locked.isEmpty()) {
      return;
    }
    FileHead file = locked.get();
    List<List<FileRow>> orders = store.orders(fileId, file.workedTo(), most);
    batch.set(orders);
    if (file.state() == FileState.CHECKING) {
      check(file, orders);
    } else {
      take(file, orders);
    }
    if (orders.size() < most) {
      finish(file);
    } else {
      store.setWorkedTo(fileId, orders.getLast().getFirst().firstRow());
    }
  }

  /** Checks orders by their first rows, in the transaction that is under way. */
  void checkAgain(FileHead file, List<Integer> firstRows) {
    check(file, store.orders(file.id(), firstRows));
  }

  private void check(FileHead file, List<List<FileRow>> orders) {
    Channel channel = channels.byId(file.channelId());
    List<Read> good =
        good(file, channel, orders.stream().filter(o -> has(o, RowState.UNCHECKED)).toList());
    Map<String, OrderContent> known =
        store.known(channel.id(), good.stream().map(r -> r.order().header().externalId()).toList());
    Map<RowState, List<Integer>> found = new EnumMap<>(RowState.class);
    for (Read r : good) {
      OrderContent before = known.get(r.order().header().externalId());
      RowState state =
          before == null
              ? RowState.NEW
              : before.changesTo(r.order().content()).isEmpty() ? RowState.SAME : RowState.CHANGED;
      found.computeIfAbsent(state, s -> new ArrayList<>()).add(r.firstRow());
    }
    found.forEach((state, firstRows) -> store.setState(file.id(), firstRows, state));
    store.setWorth(
        file.id(), good.stream().collect(Collectors.toMap(Read::firstRow, FileWork::worth)));
    remarkOutliers(file, good);
  }

  private static Worth worth(Read read) {
    List<IncomingOrder.Line> lines = read.order().lines();
    return new Worth(
        lines.stream().mapToLong(IncomingOrder.Line::quantity).sum(),
        lines.stream().mapToLong(l -> l.unitPrice().times(l.quantity()).minor()).sum()
            + read.order().header().shippingCharge().minor()
            - read.order().header().discount().minor());
  }

  /** A price that is far from the item's own may be one that was misread, or mistyped. */
  private void remarkOutliers(FileHead file, List<Read> good) {
    Map<String, Money> prices =
        usual.of(
            good.stream()
                .flatMap(r -> r.order().lines().stream())
                .map(l -> l.listing().sku())
                .collect(Collectors.toSet()));
    Integer column = Objects.requireNonNull(file.mapping()).columns().get(SheetField.PRICE);
    for (Read read : good) {
      for (int i = 0; i < read.order().lines().size(); i++) {
        IncomingOrder.Line line = read.order().lines().get(i);
        Money price = prices.get(line.listing().sku());
        if (price != null && UsualPrices.isFarFrom(line.unitPrice(), price)) {
          store.remark(
              file.id(),
              read.rows().get(i).rowNo(),
              column,
              "price %s: the item’s own is %s".formatted(line.unitPrice(), price));
        }
      }
    }
  }

  private void take(FileHead file, List<List<FileRow>> orders) {
    Channel channel = channels.byId(file.channelId());
    List<Read> good =
        good(
            file,
            channel,
            orders.stream().filter(o -> has(o, RowState.NEW) || has(o, RowState.CHANGED)).toList());
    intake.take(
        channel,
        good.stream()
            .map(r ->
                new Arrival(
                    r.order(),
                    r.message(),
                    "file %s, row %d, by %s"
                        .formatted(file.name(), r.rows().getFirst().rowNo(), file.acting())))
            .toList());
    store.setState(file.id(), good.stream().map(Read::firstRow).toList(), RowState.TAKEN);
  }

  private static boolean has(List<FileRow> order, RowState state) {
    return order.stream().anyMatch(r -> r.state() == state);
  }

  /** Reads orders; those that can't be read are refused, with their place. */
  private List<Read> good(FileHead file, Channel channel, List<List<FileRow>> orders) {
    SheetMapping mapping = Objects.requireNonNull(file.mapping());
    List<Read> good = new ArrayList<>();
    for (List<FileRow> rows : orders) {
      int firstRow = rows.getFirst().firstRow();
      Optional<FileRow> late = lateFor(rows);
      if (late.isPresent()) {
        store.refuse(
            file.id(),
            firstRow,
            new Fault(late.get().rowNo(), null, "its order has been taken in already"));
        continue;
      }
      Optional<Fault> beyond = sheets.beyondHeader(file, rows);
      if (beyond.isPresent()) {
        store.refuse(file.id(), firstRow, beyond.get());
        continue;
      }
      String message = sheets.message(file, mapping, rows);
      try {
        good.add(new Read(rows, message, connectors.of(channel).read(channel, message)));
      } catch (Unreadable e) {
        store.refuse(file.id(), firstRow, SheetOrders.fault(mapping, rows, e));
      }
    }
    return good;
  }

  /** A row that was corrected to be of an order that has been taken in without it. */
  private static Optional<FileRow> lateFor(List<FileRow> rows) {
    return has(rows, RowState.TAKEN)
        ? rows.stream().filter(r -> r.state() != RowState.TAKEN).findFirst()
        : Optional.empty();
  }

  private void finish(FileHead file) {
    boolean taken = file.state() == FileState.TAKING;
    store.setState(file.id(), taken ? FileState.TAKEN : FileState.CHECKED);
    if (taken) {
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
