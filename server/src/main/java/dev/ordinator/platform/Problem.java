package dev.ordinator.platform;

import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;

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

  /** The thing is not in a state that allows it. */
  public static Problem conflict(String detail) {
    return new Problem(HttpStatus.CONFLICT, "conflict", detail, null);
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

  HttpStatus status() {
    return status;
  }

  String type() {
    return type;
  }

  @Nullable String field() {
    return field;
  }
}
