package dev.ordinator.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Answers what went wrong before or after a request's own code, such as a session that could not be
 * read since the database is away: as problem details too, never as a page of the web server.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class LastResort extends OncePerRequestFilter {
  private final ProblemWriter writer;

  LastResort(ProblemWriter writer) {
    this.writer = writer;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain rest)
      throws ServletException, IOException {
    try {
      rest.doFilter(request, response);
    } catch (IOException hungUp) {
      throw hungUp;
    } catch (Throwable e) {
      if (response.isCommitted()) {
        throw e;
      }
      Throwable cause = e instanceof ServletException s && s.getCause() != null ? s.getCause() : e;
      response.reset();
      writer.write(Faults.problem(cause, request), response);
    }
  }
}
