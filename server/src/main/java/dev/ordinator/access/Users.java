package dev.ordinator.access;

import dev.ordinator.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The people who may log in. */
@Service
public class Users {
  private final UserStore store;
  private final PasswordEncoder passwords;

  Users(UserStore store, PasswordEncoder passwords) {
    this.store = store;
    this.passwords = passwords;
  }

  /** Whether nobody can log in yet. */
  public boolean none() {
    return store.isEmpty();
  }

  /**
   * @param nodeId the only node that the person sees; null: all
   */
  @Transactional
  public void add(
      String username, String displayName, String password, Role role, @Nullable Long nodeId) {
    if (!username.matches("[a-z0-9._-]{2,40}")) {
      throw Problem.invalid("username", "a name is 2 to 40 of a–z, 0–9, dot, dash, underscore");
    }
    if (password.length() < 10 || password.length() > 72) {
      throw Problem.invalid("password", "a password has 10 to 72 characters");
    }
    try {
      store.add(username, displayName, passwords.encode(password), role, nodeId);
    } catch (DuplicateKeyException taken) {
      throw Problem.invalid("username", "‘" + username + "’ is taken");
    }
  }
}
