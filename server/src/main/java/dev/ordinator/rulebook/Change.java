package dev.ordinator.rulebook;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonSubTypes.Type;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.JsonTypeInfo.Id;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.RuleGroup;
import dev.ordinator.platform.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One change of a draft. It says what it found before, so that of two people who change the same
 * thing the second hears of the first; changes of different things don't disturb one another.
 */
@JsonTypeInfo(use = Id.NAME, property = "change")
@JsonSubTypes({
  @Type(value = Change.PutRule.class, name = "putRule"),
  @Type(value = Change.RemoveRule.class, name = "removeRule"),
  @Type(value = Change.MoveRule.class, name = "moveRule"),
  @Type(value = Change.PutLadder.class, name = "putLadder"),
  @Type(value = Change.RemoveLadder.class, name = "removeLadder"),
  @Type(value = Change.SetPolicy.class, name = "setPolicy")
})
sealed interface Change {

  /**
   * @throws Problem if what it changes is not what it was
   */
  Rulebook in(Rulebook book);

  /**
   * A rule is written: a new one, or in place of what it was.
   *
   * @param group for a new one; a group of that name is made if there is none
   * @param before the rule before which a new one is placed; null: at the group's end
   */
  record PutRule(DeskRule rule, @Nullable DeskRule was, String group, @Nullable String before)
      implements Change {
    @Override
    public Rulebook in(Rulebook book) {
      if (was == null) {
        if (book.rules().anyMatch(r -> r.id().equals(rule.id()))) {
          throw Problem.conflict("a rule with the id " + rule.id() + " is there already");
        }
        return placed(book, rule, group, before);
      }
      same(book, was);
      return withGroups(
          book,
          book.groups().stream()
              .map(g ->
                  new RuleGroup(
                      g.name(),
                      g.rules().stream().map(r -> r.id().equals(was.id()) ? rule : r).toList()))
              .toList());
    }
  }

  record RemoveRule(DeskRule was) implements Change {
    @Override
    public Rulebook in(Rulebook book) {
      same(book, was);
      return without(book, was.id());
    }
  }

  /**
   * @param before null: to the group's end
   */
  record MoveRule(String rule, String group, @Nullable String before) implements Change {
    @Override
    public Rulebook in(Rulebook book) {
      DeskRule moved =
          find(book, rule).orElseThrow(() -> Problem.conflict("somebody has removed that rule"));
      return placed(without(book, rule), moved, group, before);
    }
  }

  /**
   * @param was null: it is a new one, and comes last
   */
  record PutLadder(Ladder ladder, @Nullable Ladder was) implements Change {
    @Override
    public Rulebook in(Rulebook book) {
      List<Ladder> ladders = new ArrayList<>(book.ladders());
      if (was == null) {
        ladders.add(ladder);
      } else {
        ladders.set(placeOf(book, was), ladder);
      }
      return new Rulebook(book.policy(), ladders, book.groups());
    }
  }

  record RemoveLadder(Ladder was) implements Change {
    @Override
    public Rulebook in(Rulebook book) {
      List<Ladder> ladders = new ArrayList<>(book.ladders());
      ladders.remove(placeOf(book, was));
      return new Rulebook(book.policy(), ladders, book.groups());
    }
  }

  record SetPolicy(Policy policy, Policy was) implements Change {
    @Override
    public Rulebook in(Rulebook book) {
      if (!book.policy().equals(was)) {
        throw Problem.conflict("somebody has changed these prices meanwhile; look at them again");
      }
      return new Rulebook(policy, book.ladders(), book.groups());
    }
  }

  private static Optional<DeskRule> find(Rulebook book, String id) {
    return book.rules().filter(r -> r.id().equals(id)).findFirst();
  }

  private static void same(Rulebook book, DeskRule was) {
    DeskRule now =
        find(book, was.id())
            .orElseThrow(() ->
                Problem.conflict("somebody has removed the rule “" + was.name() + "” meanwhile"));
    if (!now.equals(was)) {
      throw Problem.conflict(
          "somebody has changed the rule “" + was.name() + "” meanwhile; look at it again");
    }
  }

  private static int placeOf(Rulebook book, Ladder was) {
    int place = book.ladders().indexOf(was);
    if (place < 0) {
      throw Problem.conflict(
          "somebody has changed the ladder “" + was.name() + "” meanwhile; look at it again");
    }
    return place;
  }

  /** Groups that are left empty go. */
  private static Rulebook without(Rulebook book, String id) {
    return withGroups(
        book,
        book.groups().stream()
            .map(g ->
                new RuleGroup(
                    g.name(), g.rules().stream().filter(r -> !r.id().equals(id)).toList()))
            .filter(g -> !g.rules().isEmpty())
            .toList());
  }

  private static Rulebook placed(
      Rulebook book, DeskRule rule, String group, @Nullable String before) {
    List<RuleGroup> groups = new ArrayList<>(book.groups());
    if (groups.stream().noneMatch(g -> g.name().equals(group))) {
      groups.add(new RuleGroup(group, List.of()));
    }
    groups.replaceAll(g -> {
      if (!g.name().equals(group)) {
        return g;
      }
      List<DeskRule> rules = new ArrayList<>(g.rules());
      int place = rules.stream().map(DeskRule::id).toList().indexOf(Objects.toString(before, ""));
      rules.add(place < 0 ? rules.size() : place, rule);
      return new RuleGroup(g.name(), rules);
    });
    return withGroups(book, groups);
  }

  private static Rulebook withGroups(Rulebook book, List<RuleGroup> groups) {
    return new Rulebook(book.policy(), book.ladders(), groups);
  }
}
