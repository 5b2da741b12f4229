package dev.ordinator.planning;

import org.jspecify.annotations.Nullable;

/**
 * Where in a document something stands. It is written out, as a JSON path, only when it must be
 * told: a large case has half a million places.
 *
 * @param in null: it is the document
 * @param member empty: it is an element
 */
record Place(@Nullable Place in, String member, int element) {
  static final Place DOCUMENT = new Place(null, "", 0);

  Place of(String inner) {
    return new Place(this, inner, 0);
  }

  Place of(int place) {
    return new Place(this, "", place);
  }

  @Override
  public String toString() {
    if (in == null) {
      return "$";
    }
    return in + (member.isEmpty() ? "[" + element + "]" : "." + member);
  }
}
