package dev.ordinator.rulebook;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonSubTypes.Type;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.JsonTypeInfo.Id;
import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.Condition;

/** The names by which core's alternatives are told apart in a stored rulebook. */
final class RulebookJson {
  private RulebookJson() {}

  @JsonTypeInfo(use = Id.NAME, property = "is")
  @JsonSubTypes({
    @Type(value = Condition.All.class, name = "all"),
    @Type(value = Condition.Any.class, name = "any"),
    @Type(value = Condition.None.class, name = "none"),
    @Type(value = Condition.Test.class, name = "test")
  })
  interface ConditionTypes {}

  @JsonTypeInfo(use = Id.NAME, property = "do")
  @JsonSubTypes({
    @Type(value = Action.AddTag.class, name = "addTag"),
    @Type(value = Action.RemoveTag.class, name = "removeTag"),
    @Type(value = Action.SetPriority.class, name = "setPriority"),
    @Type(value = Action.SetLevel.class, name = "setLevel"),
    @Type(value = Action.Hold.class, name = "hold"),
    @Type(value = Action.ExcludeNode.class, name = "excludeNode"),
    @Type(value = Action.AddNote.class, name = "addNote")
  })
  interface ActionTypes {}
}
