package dev.ordinator.core.rules;

import dev.ordinator.core.network.ServiceLevel;

/** What a desk rule does to an order when it holds. */
public sealed interface Action {
  record AddTag(String tag) implements Action {}

  record RemoveTag(String tag) implements Action {}

  /**
   * @param priorityClass 1 is served first
   */
  record SetPriority(int priorityClass) implements Action {
    public SetPriority {
      if (priorityClass < 1 || priorityClass > 9) {
        throw new IllegalArgumentException("priority classes run from 1 to 9");
      }
    }
  }

  record SetLevel(ServiceLevel level) implements Action {}

  record Hold(String reason) implements Action {}

  record ExcludeNode(String node) implements Action {}

  record AddNote(String text) implements Action {}
}
