package dev.ordinator.rulebook;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonSubTypes.Type;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.JsonTypeInfo.Id;
import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.Condition;
import dev.ordinator.core.rules.Expression;
import dev.ordinator.platform.Problem;
import java.util.Objects;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Reads rulebooks and parts of them, and says where one is not as it must be. */
@Component
public class RulebookJson {
  private final JsonMapper json;

  RulebookJson(JsonMapper json) {
    this.json = json;
  }

  /**
   * @throws Problem that names the place, as a JSON path (RFC 9535)
   */
  public <T> T read(JsonNode node, Class<T> type) {
    try {
      return Objects.requireNonNull(json.treeToValue(node, type));
    } catch (JacksonException wrong) {
      // what core refuses says why itself
      String why = wrong.getCause() instanceof IllegalArgumentException e ? e.getMessage() : null;
      throw Problem.invalid(
          path(wrong), Objects.requireNonNullElseGet(why, wrong::getOriginalMessage));
    }
  }

  public <T> T read(String text, Class<T> type) {
    return Objects.requireNonNull(json.readValue(text, type));
  }

  public String write(Object value) {
    return json.writeValueAsString(value);
  }

  private static String path(JacksonException e) {
    StringBuilder path = new StringBuilder("$");
    for (JacksonException.Reference step : e.getPath()) {
      String member = step.getPropertyName();
      path.append(member == null ? "[" + step.getIndex() + "]" : "." + member);
    }
    return path.toString();
  }

  /** The names by which core's alternatives are told apart. */
  @Configuration
  static class Names {
    @Bean
    JsonMapperBuilderCustomizer rulebookNames() {
      return builder ->
          builder
              .addMixIn(Condition.class, ConditionTypes.class)
              .addMixIn(Expression.class, ExpressionText.class)
              .addMixIn(Action.class, ActionTypes.class);
    }
  }

  @JsonTypeInfo(use = Id.NAME, property = "is")
  @JsonSubTypes({
    @Type(value = Condition.All.class, name = "all"),
    @Type(value = Condition.Any.class, name = "any"),
    @Type(value = Condition.None.class, name = "none"),
    @Type(value = Condition.Test.class, name = "test"),
    @Type(value = Expression.class, name = "expression")
  })
  interface ConditionTypes {}

  abstract static class ExpressionText {
    @JsonCreator
    ExpressionText(@JsonProperty("text") String text) {}

    @JsonProperty("text")
    abstract String text();
  }

  @JsonTypeInfo(use = Id.NAME, property = "do")
  @JsonSubTypes({
    @Type(value = Action.AddTag.class, name = "addTag"),
    @Type(value = Action.RemoveTag.class, name = "removeTag"),
    @Type(value = Action.SetPriority.class, name = "setPriority"),
    @Type(value = Action.SetLevel.class, name = "setLevel"),
    @Type(value = Action.Hold.class, name = "hold"),
    @Type(value = Action.ReleaseHold.class, name = "releaseHold"),
    @Type(value = Action.UseLadder.class, name = "useLadder"),
    @Type(value = Action.ExcludeNode.class, name = "excludeNode"),
    @Type(value = Action.PreferNode.class, name = "preferNode"),
    @Type(value = Action.Split.class, name = "split"),
    @Type(value = Action.Waiting.class, name = "waiting"),
    @Type(value = Action.InPart.class, name = "inPart"),
    @Type(value = Action.Replacing.class, name = "replacing"),
    @Type(value = Action.Assign.class, name = "assign"),
    @Type(value = Action.PutOnList.class, name = "putOnList"),
    @Type(value = Action.AddNote.class, name = "addNote"),
    @Type(value = Action.Notify.class, name = "notify")
  })
  interface ActionTypes {}
}
