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
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
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
  private final Set<Long> seen = new LinkedHashSet<>();
  private long newest;
  private boolean caughtUp;

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

  /** Before the server waits for its requests to end: these would never. */
  @EventListener(ContextClosedEvent.class)
  void hangUp() {
    listeners.forEach(SseEmitter::complete);
  }

  @Scheduled(fixedDelay = 700)
  synchronized void tell() {
    if (listeners.isEmpty()) {
      caughtUp = false;
      return;
    }
    Changed changed = unseen();
    if (caughtUp && !changed.kinds().isEmpty()) {
      broadcast(SseEmitter.event().name("changed").data(changed, MediaType.APPLICATION_JSON));
    }
    caughtUp = true;
  }

  @Scheduled(fixedDelay = 20_000)
  void keepAlive() {
    broadcast(SseEmitter.event().comment("still here"));
  }

  private Changed unseen() {
    Set<String> kinds = new LinkedHashSet<>();
    Set<Long> orders = new LinkedHashSet<>();
    if (!caughtUp) {
      Long end = db.select(max(EVENT.ID)).from(EVENT).fetchOne(max(EVENT.ID));
      newest = end == null ? 0 : end;
    }
    db.select(EVENT.ID, EVENT.KIND, EVENT.ORDER_ID)
        .from(EVENT)
        .where(EVENT.ID.gt(newest - LOOK_BACK))
        .orderBy(EVENT.ID)
        .forEach(r -> {
          newest = Math.max(newest, r.value1());
          if (seen.add(r.value1())) {
            kinds.add(r.value2());
            if (r.value3() != null) {
              orders.add(r.value3());
            }
          }
        });
    while (seen.size() > REMEMBERED) {
      seen.remove(seen.iterator().next());
    }
    return new Changed(kinds, orders);
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
