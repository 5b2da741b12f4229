package dev.ordinator.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Locale;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;

/** Says of whatever was thrown while a request was answered what its sender is to know of it. */
final class Faults {
  private static final Logger LOG = LoggerFactory.getLogger(Faults.class);

  /** How MariaDB names the column that a value does not fit. */
  private static final Pattern COLUMN = Pattern.compile("for column [^']*'?([a-z_]+)'? at row");

  private Faults() {}

  /** What nobody foresaw is logged, under an id that the answer names. */
  static Problem problem(Throwable e, HttpServletRequest request) {
    return switch (e) {
      case Problem problem -> problem;
      case DuplicateKeyException duplicate -> Problem.duplicate();
      case DataIntegrityViolationException unfit -> unfit(unfit, request);
      case RuntimeException trouble when DatabaseTrouble.isPassing(trouble) -> noDatabase(trouble);
      default -> unexpected(e, request);
    };
  }

  private static Problem unfit(DataIntegrityViolationException e, HttpServletRequest request) {
    String column = column(e);
    return column == null
        ? unexpected(e, request)
        : Problem.invalid(column, "is longer or larger than can be kept");
  }

  private static @Nullable String column(DataIntegrityViolationException e) {
    Matcher named = COLUMN.matcher(Texts.of(e.getMostSpecificCause()));
    return named.find() ? camelCase(named.group(1)) : null;
  }

  private static String camelCase(String column) {
    return Pattern.compile("_([a-z])")
        .matcher(column)
        .replaceAll(m -> m.group(1).toUpperCase(Locale.ROOT));
  }

  private static Problem noDatabase(Exception e) {
    LOG.warn("database: {}", Texts.of(e));
    return Problem.noDatabase();
  }

  private static Problem unexpected(Throwable e, HttpServletRequest request) {
    String id = UUID.randomUUID().toString().substring(0, 8);
    LOG.error("{}: {} {} failed", id, request.getMethod(), request.getRequestURI(), e);
    return Problem.unexpected(id);
  }
}
