package dev.ordinator.access;

import java.util.Set;
import org.springframework.security.core.context.SecurityContextHolder;

/**
 * A system that calls us.
 *
 * @param channelId the only channel whose orders it sees
 */
public record Machine(long tokenId, long channelId, String name, Set<Scope> scopes) {

  /**
   * The machine of the current request.
   *
   * @throws IllegalStateException outside a request that bore a token
   */
  public static Machine current() {
    var authentication = SecurityContextHolder.getContext().getAuthentication();
    if (authentication != null && authentication.getPrincipal() instanceof Machine machine) {
      return machine;
    }
    throw new IllegalStateException("no machine is calling");
  }
}
