package dev.ordinator.rehearsal;

import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.routing.Decisions.Kept;
import dev.ordinator.routing.GroundsJson;
import java.util.Optional;

/** What really happened to orders, and what the live edition and the draft would make of them. */
final class SideBySide {
  private final PastDays past;
  private final Rerun live;
  private final Rerun draft;
  private final GroundsJson grounds;
  private final Tally wasTally = new Tally();
  private final Tally liveTally = new Tally();
  private final Tally draftTally = new Tally();
  private int orders;
  private int changed;
  private int byDraft;

  SideBySide(PastDays past, Rerun live, Rerun draft, GroundsJson grounds) {
    this.past = past;
    this.live = live;
    this.draft = draft;
    this.grounds = grounds;
  }

  /**
   * What came of it.
   *
   * @param was what really happened to the orders
   * @param again what the live edition would make of them
   * @param would what the draft would
   * @param changed orders whose outcome would be another; {@code byDraft}: and under the live
   *     edition would not
   * @param leftOut orders of which nothing is left to be sent, or from before stock was kept
   */
  record Result(
      Tally.Sum was, Tally.Sum again, Tally.Sum would, int changed, int byDraft, int leftOut) {}

  /**
   * An order whose outcome would be another.
   *
   * @param byDraft false: the live edition would now decide otherwise as well
   */
  record Different(PastOrder order, Outcome would, boolean byDraft, Kept decision) {}

  /** Goes on with the next order. */
  Optional<Different> add(PastOrder order) {
    past.goTo(order.at());
    Outcome again = live.decide(order).outcome();
    Rerun.Decided decided = draft.decide(order);
    Outcome would = decided.outcome();
    orders++;
    wasTally.add(order, order.was());
    liveTally.add(order, again);
    draftTally.add(order, would);
    if (would.sameAs(order.was())) {
      return Optional.empty();
    }
    boolean draftsDoing = !would.sameAs(again);
    changed++;
    byDraft += draftsDoing ? 1 : 0;
    return Optional.of(new Different(order, would, draftsDoing, kept(order, decided)));
  }

  private Kept kept(PastOrder order, Rerun.Decided decided) {
    Optional<Choice> choice = decided.decision().choice();
    return new Kept(
        choice.map(Choice::rung).orElse(null),
        decided.ladder().rungs().size(),
        choice.map(c -> decided.ladder().rungs().get(c.rung()).name()).orElse(""),
        decided.cost(),
        grounds.write(decided.decision(), decided.policy(), order.wanted().asked()));
  }

  /**
   * @param all orders that there were in that time
   */
  Result result(int all) {
    return new Result(
        wasTally.sum(), liveTally.sum(), draftTally.sum(), changed, byDraft, all - orders);
  }
}
