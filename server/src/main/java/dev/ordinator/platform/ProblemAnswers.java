package dev.ordinator.platform;

import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.core.AuthenticationException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/** Turns what goes wrong in a request into problem details. */
@RestControllerAdvice
class ProblemAnswers extends ResponseEntityExceptionHandler {

  /** What security has to say, it says by itself. */
  @ExceptionHandler({AccessDeniedException.class, AuthenticationException.class})
  void leave(RuntimeException e) {
    throw e;
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> answer(Throwable e, HttpServletRequest request) {
    Problem problem = Faults.problem(e, request);
    return ResponseEntity.status(problem.status()).body(problem.detail());
  }

  @Override
  protected @Nullable ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    ProblemDetail detail = UnreadableBody.problem(e).detail();
    return handleExceptionInternal(
        e, detail, headers, HttpStatusCode.valueOf(detail.getStatus()), request);
  }
}
