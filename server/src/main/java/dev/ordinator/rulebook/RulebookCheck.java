package dev.ordinator.rulebook;

import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.Condition;
import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.Expression;
import dev.ordinator.network.Nodes;
import dev.ordinator.platform.Problem;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What a rulebook must be before it may decide anything. */
@Component
class RulebookCheck {
  private static final int LONGEST_ID = 40;
  private static final int LONGEST_NAME = 80;

  private final Nodes nodes;

  RulebookCheck(Nodes nodes) {
    this.nodes = nodes;
  }

  /**
   * @throws Problem that names the first place at which it is not sound, as a JSON path
   */
  void require(Rulebook book) {
    Set<String> known =
        nodes.network().nodes().stream().map(n -> n.code()).collect(Collectors.toSet());
    must(!book.ladders().isEmpty(), "$.ladders", "at least one ladder is needed");
    Set<String> names = new HashSet<>();
    for (int i = 0; i < book.ladders().size(); i++) {
      Ladder ladder = book.ladders().get(i);
      String at = "$.ladders[" + i + "]";
      must(isText(ladder.name(), LONGEST_NAME), at + ".name", "1 to 80 characters");
      must(names.add(ladder.name()), at + ".name", "another ladder is called that");
      must(!ladder.rungs().isEmpty(), at + ".rungs", "at least one rung is needed");
      checkRungs(ladder, at, known);
    }
    Set<String> ids = new HashSet<>();
    for (int g = 0; g < book.groups().size(); g++) {
      must(
          isText(book.groups().get(g).name(), LONGEST_NAME),
          "$.groups[" + g + "].name",
          "1 to 80 characters");
      List<DeskRule> rules = book.groups().get(g).rules();
      for (int r = 0; r < rules.size(); r++) {
        String at = "$.groups[%d].rules[%d]".formatted(g, r);
        DeskRule rule = rules.get(r);
        must(isText(rule.id(), LONGEST_ID), at + ".id", "1 to 40 characters");
        must(ids.add(rule.id()), at + ".id", "another rule has the id " + rule.id());
        must(isText(rule.name(), LONGEST_NAME), at + ".name", "1 to 80 characters");
        checkCondition(rule.condition(), at + ".condition");
        for (int a = 0; a < rule.actions().size(); a++) {
          checkAction(rule.actions().get(a), at + ".actions[" + a + "]", names, known);
        }
      }
    }
  }

  private static void checkRungs(Ladder ladder, String at, Set<String> known) {
    for (int i = 0; i < ladder.rungs().size(); i++) {
      Rung rung = ladder.rungs().get(i);
      String place = at + ".rungs[" + i + "]";
      must(isText(rung.name(), LONGEST_NAME), place + ".name", "1 to 80 characters");
      Set<String> codes = rung.nodes().codes();
      if (codes != null) {
        codes.forEach(code ->
            must(known.contains(code), place + ".nodes.codes", "no node is called " + code));
      }
    }
  }

  private static void checkCondition(Condition condition, String at) {
    List<Condition> parts = new ArrayList<>();
    switch (condition) {
      case Condition.All(List<Condition> its) -> parts.addAll(its);
      case Condition.Any(List<Condition> its) -> parts.addAll(its);
      case Condition.None(List<Condition> its) -> parts.addAll(its);
      case Expression sound -> sound.costs().ifPresent(fault -> must(false, at, fault.what()));
      case Condition.Test test ->
          must(
              test.values().stream().allMatch(v -> isText(v, 200)),
              at + ".values",
              "each value has 1 to 200 characters");
    }
    for (int i = 0; i < parts.size(); i++) {
      checkCondition(parts.get(i), at + ".parts[" + i + "]");
    }
  }

  private static void checkAction(
      Action action, String at, Set<String> ladders, Set<String> nodes) {
    switch (action) {
      case Action.AddTag(String tag) -> must(isText(tag, 40), at + ".tag", "1 to 40 characters");
      case Action.RemoveTag(String tag) -> must(isText(tag, 40), at + ".tag", "1 to 40 characters");
      case Action.Hold(String reason) ->
          must(isText(reason, 200), at + ".reason", "1 to 200 characters");
      case Action.AddNote(String text) ->
          must(isText(text, 1000), at + ".text", "1 to 1000 characters");
      case Action.UseLadder(String ladder) ->
          must(ladders.contains(ladder), at + ".ladder", "no ladder is called “" + ladder + "”");
      case Action.ExcludeNode(String node) ->
          must(nodes.contains(node), at + ".node", "no node is called " + node);
      case Action.PreferNode(String node) ->
          must(nodes.contains(node), at + ".node", "no node is called " + node);
      case Action.Notify(String to) ->
          must(to.matches("[^@\\s]+@[^@\\s]+"), at + ".to", "this is no mail address");
      case Action.Assign(String to) ->
          must(to.matches("[a-z0-9._-]{2,40}"), at + ".to", "the name by which somebody logs in");
      case Action.PutOnList(String name) ->
          must(isText(name, 40), at + ".name", "1 to 40 characters");
      case Action.SetPriority p -> {}
      case Action.SetLevel l -> {}
      case Action.ReleaseHold r -> {}
      case Action.Split s -> {}
      case Action.Waiting w -> {}
      case Action.InPart p -> {}
      case Action.Replacing r -> {}
    }
  }

  private static boolean isText(String text, int longest) {
    return !text.isBlank() && text.length() <= longest;
  }

  private static void must(boolean sound, String at, String otherwise) {
    if (!sound) {
      throw Problem.invalid(at, otherwise);
    }
  }
}
