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
    public static final int FIRST = 1;
    public static final int LAST = 9;

    public SetPriority {
      if (priorityClass < FIRST || priorityClass > LAST) {
        throw new IllegalArgumentException("priority classes run from 1 to 9");
      }
    }
  }

  record SetLevel(ServiceLevel level) implements Action {}

  record Hold(String reason) implements Action {}

  /** Ends the holds that rules placed; a person's stays. */
  record ReleaseHold() implements Action {}

  /**
   * @param ladder one of the edition's
   */
  record UseLadder(String ladder) implements Action {}

  record ExcludeNode(String node) implements Action {}

  /** On each rung, the nodes that are preferred are tried alone first. */
  record PreferNode(String node) implements Action {}

  /**
   * @param allowed false: all of it in one consignment, or it waits
   */
  record Split(boolean allowed) implements Action {}

  /**
   * @param allowed false: what is short is not waited for
   */
  record Waiting(boolean allowed) implements Action {}

  /**
   * @param allowed whether what is there is sent while the rest waits
   */
  record InPart(boolean allowed) implements Action {}

  /**
   * @param allowed whether another item may be sent instead of one that is short
   */
  record Replacing(boolean allowed) implements Action {}

  /**
   * A colleague looks after it.
   *
   * @param to the name by which the colleague logs in
   */
  record Assign(String to) implements Action {}

  /**
   * It stands on a list that people work off.
   *
   * @param name of the list
   */
  record PutOnList(String name) implements Action {}

  record AddNote(String text) implements Action {}

  /**
   * Somebody is told by mail.
   *
   * @param to a mail address
   */
  record Notify(String to) implements Action {}
}
