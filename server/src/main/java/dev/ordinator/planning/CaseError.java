package dev.ordinator.planning;

/**
 * What is wrong with a planning case, and where: a JSONPath (RFC 9535) such as {@code
 * $.nodes[2].cutOff}.
 */
final class CaseError extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final String path;
  private final String what;

  CaseError(String path, String what) {
    super(path + ": " + what);
    this.path = path;
    this.what = what;
  }

  String path() {
    return path;
  }

  String what() {
    return what;
  }
}
