package dev.ordinator.platform;

import static dev.ordinator.schema.Tables.EVENT;
import static org.jooq.impl.DSL.max;

import io.swagger.v3.oas.annotations.Operation;
import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Tells open browsers that something changed, so that they ask again. Reads the event table, so
 * that changes made by other instances are told as well.
 */
@RestController
class LiveUpdates {
  /**
   * Ids are given before commits: a row may appear behind one already seen. Looked back for so far.
   */
  private static final long LOOK_BACK = 500;

  private static final int REMEMBERED = 2_000;

  private final DSLContext db;
  private final List<SseEmitter> listeners = new CopyOnWriteArrayList<>();
  private final Set<Long> told = new LinkedHashSet<>();
  private long newest = -1;

  LiveUpdates(DSLContext db) {
    this.db = db;
  }

  /** Which things changed; kinds are event kinds. */
  record Changed(Set<String> kinds, Set<Long> orders) {}

  @Operation(summary = "Server-sent events: what changed, so that a view can ask again")
  @GetMapping(path = "/api/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter listen() throws IOException {
    SseEmitter emitter = new SseEmitter(0L);
    emitter.onCompletion(() -> listeners.remove(emitter));
    emitter.onError(e -> listeners.remove(emitter));
    emitter.send(SseEmitter.event().comment("listening"));
    listeners.add(emitter);
    return emitter;
  }

  @Scheduled(fixedDelay = 700)
  synchronized void tell() {
    if (listeners.isEmpty()) {
      newest = -1;
      return;
    }
    if (newest < 0) {
      Long last = db.select(max(EVENT.ID)).from(EVENT).fetchOne(max(EVENT.ID));
      newest = last == null ? 0 : last;
      return;
    }
    send(unseen());
  }

  @Scheduled(fixedDelay = 20_000)
  void keepAlive() {
    broadcast(SseEmitter.event().comment("still here"));
  }

  private @Nullable Changed unseen() {
    Set<String> kinds = new LinkedHashSet<>();
    Set<Long> orders = new LinkedHashSet<>();
    long from = newest;
    db.select(EVENT.ID, EVENT.KIND, EVENT.ORDER_ID)
        .from(EVENT)
        .where(EVENT.ID.gt(from - LOOK_BACK))
        .orderBy(EVENT.ID)
        .limit(REMEMBERED)
        .forEach(r -> {
          if (told.add(r.value1()) && (r.value1() > from || told.size() > LOOK_BACK)) {
            kinds.add(r.value2());
            if (r.value3() != null) {
              orders.add(r.value3());
            }
          }
          newest = Math.max(newest, r.value1());
        });
    while (told.size() > REMEMBERED) {
      told.remove(told.iterator().next());
    }
    return kinds.isEmpty() ? null : new Changed(kinds, orders);
  }

  private void send(@Nullable Changed changed) {
    if (changed != null) {
      broadcast(SseEmitter.event().name("changed").data(changed, MediaType.APPLICATION_JSON));
    }
  }

  private void broadcast(SseEmitter.SseEventBuilder event) {
    for (SseEmitter listener : listeners) {
      try {
        listener.send(event);
      } catch (IOException | IllegalStateException gone) {
        listeners.remove(listener);
      }
    }
  }
}
