package dev.ordinator.network;

import static dev.ordinator.schema.Tables.NETWORK_STATE;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.select;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.Zone;
import dev.ordinator.network.CapacityDays.OtherDay;
import dev.ordinator.platform.Transactions;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * The network as it was, for {@value #KEPT_DAYS} days: looked at every minute, and kept whenever it
 * is another one.
 */
@Configuration
public class NetworkHistory {
  private static final int KEPT_DAYS = 100;
  private static final Duration LOOK_EVERY = Duration.ofMinutes(1);
  private static final Logger LOG = LoggerFactory.getLogger(NetworkHistory.class);

  private final DSLContext db;
  private final NetworkStore store;
  private final CapacityDays capacities;
  private final Transactions transactions;
  private final JsonMapper json;
  private final Clock clock;

  NetworkHistory(
      DSLContext db,
      NetworkStore store,
      CapacityDays capacities,
      Transactions transactions,
      JsonMapper json,
      Clock clock) {
    this.db = db;
    this.store = store;
    this.capacities = capacities;
    this.transactions = transactions;
    this.json = json;
    this.clock = clock;
  }

  /** What is kept of it; pauses are not: they say what was not routed, not what could be. */
  record Kept(List<Node> nodes, List<Lane> lanes, List<Zone> zones, Map<String, Integer> usual) {}

  /**
   * The network from a moment on.
   *
   * @param usual consignments that nodes hand over on a usual day, by their codes; a node not in it
   *     has no limit
   * @param otherDays days that are not as usual, by codes of nodes
   */
  public record State(
      Instant since,
      Network network,
      Map<String, Integer> usual,
      Map<String, Map<LocalDate, OtherDay>> otherDays) {

    /** What a node can hand over on a day; null: no limit. */
    public @Nullable Integer most(String node, LocalDate day) {
      return CapacityDays.most(node, day, usual, otherDays);
    }
  }

  @Bean
  RecurringTask<Void> keepNetwork() {
    return Tasks.recurring("keep-network", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> keep());
  }

  /** Keeps the network as it is, unless it is as it was last kept. */
  public void keep() {
    transactions.run(() -> {
      Kept now = now();
      Optional<Kept> last =
          db.select(NETWORK_STATE.BODY)
              .from(NETWORK_STATE)
              .orderBy(NETWORK_STATE.SINCE.desc())
              .limit(1)
              .fetchOptional(NETWORK_STATE.BODY)
              .flatMap(this::read);
      if (!last.equals(Optional.of(now))) {
        String body = json.writeValueAsString(now);
        db.insertInto(NETWORK_STATE)
            .set(NETWORK_STATE.SINCE, clock.instant())
            .set(NETWORK_STATE.BODY, body)
            .onDuplicateKeyUpdate()
            .set(NETWORK_STATE.BODY, body)
            .execute();
        forget(clock.instant().minus(Duration.ofDays(KEPT_DAYS)));
      }
    });
  }

  /** Empty if an older version of the application wrote it in a form that is not read any more. */
  private Optional<Kept> read(String body) {
    try {
      return Optional.of(json.readValue(body, Kept.class));
    } catch (JacksonException e) {
      LOG.warn("a network that was kept can't be read any more", e);
      return Optional.empty();
    }
  }

  private Kept now() {
    List<Node> all = store.nodes();
    return new Kept(all, store.lanes(all), store.zones(), capacities.usual());
  }

  /** The last one before a moment stays: it held then. */
  private void forget(Instant before) {
    Instant held =
        db.select(max(NETWORK_STATE.SINCE))
            .from(NETWORK_STATE)
            .where(NETWORK_STATE.SINCE.le(before))
            .fetchSingle()
            .value1();
    if (held != null) {
      db.deleteFrom(NETWORK_STATE).where(NETWORK_STATE.SINCE.lt(held)).execute();
    }
  }

  /**
   * How it was at a moment and since, the earliest first; at least one. What is not known of a
   * moment is taken from the first that is.
   */
  public List<State> since(Instant moment) {
    Map<String, Map<LocalDate, OtherDay>> otherDays = capacities.otherDays();
    var earlier = NETWORK_STATE.as("earlier");
    List<State> states = new ArrayList<>();
    db.selectFrom(NETWORK_STATE)
        .where(
            NETWORK_STATE.SINCE.ge(
                DSL.coalesce(
                    DSL.field(
                        select(max(earlier.SINCE)).from(earlier).where(earlier.SINCE.le(moment))),
                    DSL.val(moment))))
        .orderBy(NETWORK_STATE.SINCE)
        .forEach(r ->
            read(r.getBody()).ifPresent(kept -> states.add(state(r.getSince(), kept, otherDays))));
    return states.isEmpty() ? List.of(state(moment, now(), otherDays)) : states;
  }

  private static State state(
      Instant since, Kept kept, Map<String, Map<LocalDate, OtherDay>> otherDays) {
    return new State(
        since, new Network(kept.nodes(), kept.lanes(), kept.zones()), kept.usual(), otherDays);
  }
}
