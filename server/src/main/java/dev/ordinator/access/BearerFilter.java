package dev.ordinator.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Lets machines in by the token that they bear. */
final class BearerFilter extends OncePerRequestFilter {
  private static final String BEARER = "Bearer ";

  private final MachineTokens tokens;

  BearerFilter(MachineTokens tokens) {
    this.tokens = tokens;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String header = request.getHeader("Authorization");
    if (header != null && header.startsWith(BEARER)) {
      tokens
          .bearer(header.substring(BEARER.length()).strip())
          .map(machine ->
              UsernamePasswordAuthenticationToken.authenticated(
                  machine,
                  null,
                  machine.scopes().stream()
                      .map(s -> new SimpleGrantedAuthority(s.authority()))
                      .toList()))
          .ifPresent(SecurityContextHolder.getContext()::setAuthentication);
    }
    chain.doFilter(request, response);
  }
}
