package dev.ordinator.access;

import static java.util.Objects.requireNonNullElse;

import java.util.List;
import java.util.Optional;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.authentication.WebAuthenticationDetails;
import org.springframework.stereotype.Component;

/** Checks name and password, and slows down guessing. Being a bean, it is found by itself. */
@Component
class PasswordLogin implements AuthenticationProvider {
  private final UserStore users;
  private final LoginThrottle throttle;
  private final PasswordEncoder passwords;

  /** Compared with when the name is unknown, so that the answer takes as long. */
  private final String nobodysHash;

  PasswordLogin(UserStore users, LoginThrottle throttle, PasswordEncoder passwords) {
    this.users = users;
    this.throttle = throttle;
    this.passwords = passwords;
    this.nobodysHash = passwords.encode("nobody");
  }

  @Override
  public Authentication authenticate(Authentication attempt) {
    String name = attempt.getName();
    String address =
        attempt.getDetails() instanceof WebAuthenticationDetails details
            ? requireNonNullElse(details.getRemoteAddress(), "")
            : "";
    if (throttle.isPaused(name, address)) {
      throw new LockedException("too many failures");
    }
    Optional<UserStore.Login> found = users.find(name);
    String hash = found.map(UserStore.Login::passwordHash).orElse(nobodysHash);
    boolean matches = passwords.matches(String.valueOf(attempt.getCredentials()), hash);
    if (!matches || found.isEmpty()) {
      throttle.failed(name, address);
      throw new BadCredentialsException("unknown name or wrong password");
    }
    throttle.succeeded(name, address);
    Person person = found.get().person();
    return UsernamePasswordAuthenticationToken.authenticated(
        person, null, List.of(new SimpleGrantedAuthority("ROLE_" + person.role().name())));
  }

  @Override
  public boolean supports(Class<?> type) {
    return UsernamePasswordAuthenticationToken.class.isAssignableFrom(type);
  }
}
