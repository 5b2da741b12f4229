package dev.ordinator.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.web.filter.OncePerRequestFilter;

/** Ends a session when a long working day is over, however busy it is. */
final class SessionTimeLimit extends OncePerRequestFilter {
  static final Duration LONGEST = Duration.ofHours(14);

  private final Clock clock;

  SessionTimeLimit(Clock clock) {
    this.clock = clock;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    HttpSession session = request.getSession(false);
    if (session != null
        && isOver(Instant.ofEpochMilli(session.getCreationTime()), clock.instant())) {
      session.invalidate();
    }
    chain.doFilter(request, response);
  }

  static boolean isOver(Instant begun, Instant now) {
    return begun.plus(LONGEST).isBefore(now);
  }
}
