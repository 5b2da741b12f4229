package dev.ordinator.platform;

import java.util.stream.Collectors;
import org.springframework.http.converter.HttpMessageNotReadableException;
import tools.jackson.core.JacksonException;
import tools.jackson.core.exc.StreamReadException;
import tools.jackson.databind.exc.InvalidFormatException;
import tools.jackson.databind.exc.UnrecognizedPropertyException;

/** Says where a request's JSON can't be read, and why, in words without a parser's own. */
final class UnreadableBody {
  private UnreadableBody() {}

  static Problem problem(HttpMessageNotReadableException e) {
    return switch (e.getCause()) {
      case UnrecognizedPropertyException unknown ->
          Problem.invalid(place(unknown), "there is no such field");
      case InvalidFormatException wrong ->
          Problem.invalid(
              place(wrong),
              "“%s” is not what goes here"
                  .formatted(Texts.cut(String.valueOf(wrong.getValue()), 60)));
      case StreamReadException broken ->
          Problem.unreadable(
              "the body is not JSON: look at line %d, column %d"
                  .formatted(broken.getLocation().getLineNr(), broken.getLocation().getColumnNr()));
      case JacksonException other when !other.getPath().isEmpty() ->
          Problem.invalid(place(other), "can’t be read as what goes here");
      case null, default -> Problem.unreadable("the body can’t be read");
    };
  }

  /** A path such as {@code lines[2].quantity}. */
  private static String place(JacksonException e) {
    return e.getPath().stream()
        .map(step ->
            step.getPropertyName() == null
                ? "[" + step.getIndex() + "]"
                : "." + step.getPropertyName())
        .collect(Collectors.joining())
        .replaceFirst("^\\.", "");
  }
}
