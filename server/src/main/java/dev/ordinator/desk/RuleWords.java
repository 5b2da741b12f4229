package dev.ordinator.desk;

import dev.ordinator.core.rules.Action;
import java.util.Locale;

/** What a rule's actions did, as an order's timeline says it. */
final class RuleWords {
  private RuleWords() {}

  static String of(Action action) {
    return switch (action) {
      case Action.AddTag(String tag) -> "tagged “" + tag + "”";
      case Action.RemoveTag(String tag) -> "tag “" + tag + "” removed";
      case Action.SetPriority(int priorityClass) -> "priority class " + priorityClass;
      case Action.SetLevel(var level) -> "level " + level.name().toLowerCase(Locale.ROOT);
      case Action.Hold(String reason) -> "held: " + reason;
      case Action.ReleaseHold r -> "holds of rules ended";
      case Action.UseLadder(String ladder) -> "ladder “" + ladder + "”";
      case Action.ExcludeNode(String node) -> "not from " + node;
      case Action.PreferNode(String node) -> "from " + node + " if it can";
      case Action.Split(boolean allowed) -> allowed ? "may be split" : "may not be split";
      case Action.Waiting(boolean allowed) -> allowed ? "may wait for stock" : "may not wait";
      case Action.InPart(boolean allowed) -> allowed ? "may go in part" : "goes whole";
      case Action.Replacing(boolean allowed) ->
          allowed ? "something else may be sent" : "nothing else may be sent";
      case Action.Assign(String to) -> "for " + to;
      case Action.PutOnList(String name) -> "on the list “" + name + "”";
      case Action.AddNote(String text) -> "note: " + text;
      case Action.Notify(String to) -> to + " is told";
    };
  }
}
