package dev.ordinator.platform;

import java.net.URI;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;

/**
 * Something a request can't have, said so that its sender can mend it. Answered as problem details
 * (RFC 9457) with a stable type.
 */
public final class Problem extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final HttpStatus status;
  private final String type;
  private final @Nullable String field;

  private Problem(HttpStatus status, String type, String detail, @Nullable String field) {
    super(detail);
    this.status = status;
    this.type = type;
    this.field = field;
  }

  /** There is no such thing, or none that the person may see. */
  public static Problem notFound(String what) {
    return new Problem(HttpStatus.NOT_FOUND, "not-found", what + " is not there", null);
  }

  /**
   * @param field the request's field at fault
   */
  public static Problem invalid(String field, String detail) {
    return new Problem(HttpStatus.UNPROCESSABLE_CONTENT, "invalid", detail, field);
  }

  /** What was sent can't even be taken apart. */
  static Problem unreadable(String detail) {
    return new Problem(HttpStatus.BAD_REQUEST, "unreadable", detail, null);
  }

  /** The thing is not in a state that allows it. */
  public static Problem conflict(String detail) {
    return new Problem(HttpStatus.CONFLICT, "conflict", detail, null);
  }

  /** There is one already that must be the only one of its kind. */
  static Problem duplicate() {
    return new Problem(
        HttpStatus.CONFLICT, "duplicate", "there is one like it already; nothing was saved", null);
  }

  /** The database can't be reached, or is too busy. */
  static Problem noDatabase() {
    return new Problem(
        HttpStatus.SERVICE_UNAVAILABLE,
        "database-away",
        "the database did not answer; nothing was changed, try again in a moment",
        null);
  }

  /** Who asks is not known. */
  public static Problem unauthorized(String detail) {
    return new Problem(HttpStatus.UNAUTHORIZED, "unauthorized", detail, null);
  }

  /** Who asks has asked too often. */
  public static Problem tooMany(String detail) {
    return new Problem(HttpStatus.TOO_MANY_REQUESTS, "too-many", detail, null);
  }

  /** Who asks may not have it. */
  public static Problem notAllowed(String detail) {
    return new Problem(HttpStatus.FORBIDDEN, "not-allowed", detail, null);
  }

  /**
   * What nobody foresaw.
   *
   * @param id stands in the log, beside what happened
   */
  static Problem unexpected(String id) {
    return new Problem(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "unexpected",
        "something went wrong that should not; nothing was saved. It stands in the log as " + id,
        null);
  }

  /** Somebody changed it since it was read. */
  public static Problem stale() {
    return new Problem(
        HttpStatus.PRECONDITION_FAILED,
        "stale",
        "somebody changed this meanwhile; look at it again",
        null);
  }

  /** Another system that is needed for it does not answer as it should. */
  public static Problem elsewhere(String detail) {
    return new Problem(HttpStatus.BAD_GATEWAY, "elsewhere", detail, null);
  }

  /** As problem details. */
  ProblemDetail detail() {
    ProblemDetail detail = ProblemDetail.forStatusAndDetail(status, Texts.of(this));
    detail.setType(URI.create("https://ordinator.dev/problems/" + type));
    if (field != null) {
      detail.setProperty("field", field);
    }
    return detail;
  }

  HttpStatus status() {
    return status;
  }
}
