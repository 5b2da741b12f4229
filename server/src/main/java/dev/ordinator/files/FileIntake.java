package dev.ordinator.files;

import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.files.FileStore.FileHead;
import dev.ordinator.files.FileStore.FileRow;
import dev.ordinator.files.FileStore.FileState;
import dev.ordinator.files.FileStore.RowState;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import java.nio.file.Path;
import java.util.List;
import org.springframework.stereotype.Service;

/**
 * Orders from files: every row is checked and shown before anything is taken; what is good is
 * taken, what is not waits to be corrected; and what was taken can be taken back while none of it
 * was released.
 */
@Service
class FileIntake {
  private final FileStore store;
  private final FileWork work;
  private final Channels channels;
  private final Cancellations cancellations;
  private final Orders orders;
  private final Transactions transactions;
  private final Events events;

  FileIntake(
      FileStore store,
      FileWork work,
      Channels channels,
      Cancellations cancellations,
      Orders orders,
      Transactions transactions,
      Events events) {
    this.store = store;
    this.work = work;
    this.channels = channels;
    this.cancellations = cancellations;
    this.orders = orders;
    this.transactions = transactions;
    this.events = events;
  }

  /**
   * Reads a file in, all of it or nothing. A mapping remembered for its headers is applied at once.
   */
  long upload(long channelId, String name, Path content, String actor) {
    Channel channel = channels.byId(channelId);
    if (channel.kind() != ChannelKind.SPREADSHEET) {
      throw Problem.conflict(channel.name() + " takes no files");
    }
    FileReading read =
        transactions.get(() -> FileReading.of(store, channelId, name, content, actor));
    read.mapping()
        .ifPresent(mapping -> check(store.file(read.file()), mapping, read.isSorted(), actor));
    return read.file();
  }

  /** Says which column is which; every row is checked, in the background if there are many. */
  void map(long fileId, SheetMapping mapping, String actor) {
    FileHead file = store.file(fileId);
    requireAtRest(file);
    mapping.check(file.headers());
    check(file, mapping, false, actor);
  }

  private void check(FileHead file, SheetMapping mapping, boolean isSorted, String actor) {
    if (!FileStyles.of(mapping, file.styles()).asks().isEmpty()) {
      // nothing is read before a person has said how it is written
      transactions.run(() -> {
        store.setMapping(file, mapping, actor);
        store.setState(file.id(), FileState.UPLOADED);
      });
      return;
    }
    transactions.run(() -> {
      store.setMapping(file, mapping, actor);
      if (!isSorted) {
        store.sortIntoOrders(file.id(), mapping);
      }
      store.begin(file.id(), FileState.CHECKING, actor);
    });
    work.begin(file.id());
  }

  /** Corrects a row's cells; its order is checked again. */
  void correct(long fileId, int rowNo, List<String> cells) {
    FileHead file = store.file(fileId);
    requireAtRest(file);
    SheetMapping mapping = required(file);
    FileRow before =
        store.rows(fileId, null, rowNo - 1).rows().stream()
            .filter(r -> r.rowNo() == rowNo)
            .findFirst()
            .orElseThrow(() -> Problem.notFound("row " + rowNo));
    if (before.state() == RowState.TAKEN) {
      throw Problem.conflict("row " + rowNo + " has been taken in already");
    }
    transactions.run(
        () -> work.checkAgain(file, store.sortIntoOrders(fileId, mapping, before, cells)));
  }

  /** Takes every order whose rows are all good, in the background if there are many. */
  void take(long fileId, String actor) {
    FileHead file = store.file(fileId);
    requireAtRest(file);
    required(file);
    channels.requireOpen(channels.byId(file.channelId()));
    if (file.state() == FileState.UPLOADED) {
      throw Problem.conflict("say first how its numbers and days are written");
    }
    transactions.run(() -> store.begin(fileId, FileState.TAKING, actor));
    work.begin(fileId);
  }

  /**
   * Takes back what a file brought: its orders are cancelled, and the file can be brought again.
   */
  void undo(long fileId, String actor) {
    FileHead file = store.file(fileId);
    if (file.state() != FileState.TAKEN) {
      throw Problem.conflict("nothing of " + file.name() + " has been taken in");
    }
    transactions.run(() -> {
      List<OrderHead> brought = store.orderIds(fileId).stream().map(orders::lock).toList();
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
      store.setState(fileId, FileState.UNDONE);
    });
    events.record(
        EventKind.CHANNEL_CHANGED, null, null, actor, file.name() + " was taken back", "");
  }

  void discard(long fileId) {
    requireAtRest(store.file(fileId));
    store.setState(fileId, FileState.DISCARDED);
  }

  private static SheetMapping required(FileHead file) {
    SheetMapping mapping = file.mapping();
    if (mapping == null) {
      throw Problem.conflict("say first which column is which");
    }
    return mapping;
  }

  private static void requireAtRest(FileHead file) {
    switch (file.state()) {
      case UNDONE, DISCARDED ->
          throw Problem.conflict(file.name() + " was taken back or discarded; bring it again");
      case CHECKING, TAKING ->
          throw Problem.conflict(file.name() + " is being worked on; wait until that is done");
      case UPLOADED, CHECKED, TAKEN -> {}
    }
  }
}
