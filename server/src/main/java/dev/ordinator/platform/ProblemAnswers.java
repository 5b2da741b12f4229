package dev.ordinator.platform;

import java.net.URI;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/** Turns what goes wrong into problem details. */
@RestControllerAdvice
class ProblemAnswers extends ResponseEntityExceptionHandler {
  private static final Logger LOG = LoggerFactory.getLogger(ProblemAnswers.class);

  @ExceptionHandler
  ProblemDetail answer(Problem problem) {
    ProblemDetail detail = ProblemDetail.forStatusAndDetail(problem.status(), Texts.of(problem));
    detail.setType(URI.create("https://ordinator.dev/problems/" + problem.type()));
    if (problem.field() != null) {
      detail.setProperty("field", problem.field());
    }
    return detail;
  }

  @ExceptionHandler
  ProblemDetail answer(DataAccessException e) {
    LOG.warn("database: {}", Texts.of(e));
    return ProblemDetail.forStatusAndDetail(
        HttpStatus.SERVICE_UNAVAILABLE,
        "the database did not answer; nothing was changed, try again");
  }
}
