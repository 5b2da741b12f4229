package dev.ordinator.access;

import java.io.Serializable;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.context.SecurityContextHolder;

/**
 * Who is logged in.
 *
 * @param nodeId the only node that the person sees; null: all
 */
public record Person(long id, String username, String displayName, Role role, @Nullable Long nodeId)
    implements Serializable {

  /**
   * The person of the current request.
   *
   * @throws IllegalStateException outside a logged-in request
   */
  public static Person current() {
    var authentication = SecurityContextHolder.getContext().getAuthentication();
    if (authentication != null && authentication.getPrincipal() instanceof Person person) {
      return person;
    }
    throw new IllegalStateException("nobody is logged in");
  }

  /** The node that queries must be narrowed to; empty: none. */
  public OptionalLong onlyNode() {
    return nodeId == null ? OptionalLong.empty() : OptionalLong.of(nodeId);
  }
}
