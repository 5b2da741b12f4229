package dev.ordinator.sheets;

import java.util.List;

/**
 * A column of ours that a file may have.
 *
 * @param required whether a file must have it
 * @param hint what stands in it
 * @param example for the file to fill in
 * @param also what others call it
 */
public record Column(
    String name, boolean required, String hint, String example, List<String> also) {
  public static Column must(String name, String hint, String example, String... also) {
    return new Column(name, true, hint, example, List.of(also));
  }

  public static Column may(String name, String hint, String example, String... also) {
    return new Column(name, false, hint, example, List.of(also));
  }

  boolean isCalled(String header) {
    return header.equalsIgnoreCase(name) || also.stream().anyMatch(header::equalsIgnoreCase);
  }
}
