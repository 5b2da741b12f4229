package dev.ordinator.platform;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Answers what was refused by a bare status, such as by a filter: as problem details. */
@RestController
@Hidden
class ErrorAnswers implements ErrorController {

  @RequestMapping("/error")
  ResponseEntity<ProblemDetail> answer(HttpServletRequest request) {
    Object code = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE);
    HttpStatus known = code instanceof Integer c ? HttpStatus.resolve(c) : null;
    HttpStatus status = known == null ? HttpStatus.NOT_FOUND : known;
    return ResponseEntity.status(status).body(ProblemDetail.forStatus(status));
  }
}
