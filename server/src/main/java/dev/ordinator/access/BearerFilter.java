package dev.ordinator.access;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.ProblemWriter;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Lets machines in by the token that they bear, as often as it may ask. */
final class BearerFilter extends OncePerRequestFilter {
  private static final String BEARER = "Bearer ";

  private static final Problem TOO_OFTEN =
      Problem.tooMany("this token has asked too often; wait as long as Retry-After says");

  private final MachineTokens tokens;
  private final MachineRateLimiter rate;
  private final ProblemWriter problems;

  BearerFilter(MachineTokens tokens, MachineRateLimiter rate, ProblemWriter problems) {
    this.tokens = tokens;
    this.rate = rate;
    this.problems = problems;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String header = request.getHeader("Authorization");
    if (header != null && header.startsWith(BEARER)) {
      Optional<Machine> machine = tokens.bearer(header.substring(BEARER.length()).strip());
      Duration pause = machine.map(m -> rate.take(m.tokenId())).orElse(Duration.ZERO);
      if (pause.isPositive()) {
        response.setHeader(HttpHeaders.RETRY_AFTER, Long.toString(pause.toSeconds() + 1));
        problems.write(TOO_OFTEN, response);
        return;
      }
      machine.ifPresent(m ->
          SecurityContextHolder.getContext()
              .setAuthentication(
                  UsernamePasswordAuthenticationToken.authenticated(
                      m,
                      null,
                      m.scopes().stream()
                          .map(s -> new SimpleGrantedAuthority(s.authority()))
                          .toList())));
    }
    chain.doFilter(request, response);
  }
}
