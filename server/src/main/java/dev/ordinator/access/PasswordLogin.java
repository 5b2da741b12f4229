package dev.ordinator.access;

import java.time.Clock;
import java.util.List;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** Checks name and password, and slows down guessing. Being a bean, it is found by itself. */
@Component
class PasswordLogin implements AuthenticationProvider {
  private final UserStore users;
  private final PasswordEncoder passwords;
  private final Clock clock;

  /** Compared with when the name is unknown, so that the answer takes as long. */
  private final String nobodysHash;

  PasswordLogin(UserStore users, PasswordEncoder passwords, Clock clock) {
    this.users = users;
    this.passwords = passwords;
    this.clock = clock;
    this.nobodysHash = passwords.encode("nobody");
  }

  @Override
  public Authentication authenticate(Authentication attempt) {
    String password = String.valueOf(attempt.getCredentials());
    var found = users.find(attempt.getName());
    if (found.isEmpty()) {
      passwords.matches(password, nobodysHash);
      throw new BadCredentialsException("unknown name or wrong password");
    }
    UserStore.Login login = found.get();
    if (login.lockedUntil() != null && login.lockedUntil().isAfter(clock.instant())) {
      throw new LockedException("too many failures");
    }
    if (!passwords.matches(password, login.passwordHash())) {
      users.failed(login.person().id());
      throw new BadCredentialsException("unknown name or wrong password");
    }
    users.succeeded(login.person().id());
    Person person = login.person();
    return UsernamePasswordAuthenticationToken.authenticated(
        person, null, List.of(new SimpleGrantedAuthority("ROLE_" + person.role().name())));
  }

  @Override
  public boolean supports(Class<?> type) {
    return UsernamePasswordAuthenticationToken.class.isAssignableFrom(type);
  }
}
