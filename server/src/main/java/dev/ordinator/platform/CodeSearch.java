package dev.ordinator.platform;

import java.util.Locale;
import org.jooq.Condition;
import org.jooq.Field;

/**
 * Finds numbers and codes by how they begin. They are kept apart by case, and people don't mind it:
 * each way of writing what was typed is looked up in the index.
 */
public final class CodeSearch {
  private CodeSearch() {}

  /** Begins with what was typed as it stands, or all in capitals, or all in small letters. */
  public static Condition startsWith(Field<String> code, String typed) {
    return code.startsWith(typed)
        .or(code.startsWith(typed.toUpperCase(Locale.ROOT)))
        .or(code.startsWith(typed.toLowerCase(Locale.ROOT)));
  }
}
