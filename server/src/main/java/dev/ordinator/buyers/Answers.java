package dev.ordinator.buyers;

import dev.ordinator.buyers.Questions.Answer;
import dev.ordinator.buyers.Questions.Asked;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import io.swagger.v3.oas.annotations.Hidden;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.util.HtmlUtils;

/**
 * The page that a link in a letter leads to: one question, no script, nothing to log in to. It says
 * nothing of the buyer, and answers once.
 */
@Hidden
@RestController
@RequestMapping("/answer/{token}")
class Answers {
  private static final String GONE =
      page("This link is not valid", "<p>Please take the link from our last letter.</p>");

  private final Questions questions;
  private final AnswerLink link;

  Answers(Questions questions, AnswerLink link) {
    this.questions = questions;
    this.link = link;
  }

  @GetMapping
  ResponseEntity<String> ask(@PathVariable String token) {
    OptionalLong id = link.question(token);
    return id.isEmpty() ? html(404, GONE) : html(200, question(questions.of(id.getAsLong())));
  }

  @PostMapping
  ResponseEntity<String> answer(@PathVariable String token, @RequestParam Answer answer) {
    OptionalLong id = link.question(token);
    if (id.isEmpty()) {
      return html(404, GONE);
    }
    try {
      questions.answer(id.getAsLong(), answer);
    } catch (Problem gone) {
      // nothing was noted: what is still possible is asked again
      return html(409, question(questions.of(id.getAsLong())));
    }
    return html(200, question(questions.of(id.getAsLong())));
  }

  private static String question(Asked asked) {
    if (asked.cancelled() && asked.answered() != Answer.CANCEL) {
      return page(
          "Your order " + text(asked.number()) + " is cancelled",
          "<p>Nothing of it will be sent, and nothing is to be answered any more.</p>");
    }
    if (asked.answered() != null) {
      return page("Thank you", "<p>" + said(asked.answered()) + "</p>");
    }
    if (asked.moot()) {
      return page("Nothing is missing any more", "<p>What you ordered is on its way.</p>");
    }
    String lines =
        asked.lines().stream()
            .map(line -> "<li>" + text(line) + "</li>")
            .collect(Collectors.joining());
    LocalDate until = asked.until();
    String when =
        until == null
            ? "We can’t say yet when it will come."
            : "We expect it to be with you on <b>" + Texts.date(until) + "</b>.";
    String instead =
        asked.instead().isEmpty()
            ? ""
            : button(
                Answer.REPLACE,
                "Send " + text(String.join(", ", asked.instead())) + ", at the same price");
    return page(
        "Your order " + text(asked.number()) + " takes longer",
        "<p>This is not here yet:</p><ul>%s</ul><p>%s</p><form method=\"post\">%s%s%s</form>"
            .formatted(
                lines,
                when,
                button(Answer.WAIT, "I will wait"),
                instead,
                button(Answer.CANCEL, "Cancel what is missing")));
  }

  private static String text(String plain) {
    return HtmlUtils.htmlEscape(plain, StandardCharsets.UTF_8.name());
  }

  private static String said(Answer answer) {
    return switch (answer) {
      case WAIT -> "You will wait. We send it as soon as it is here.";
      case REPLACE -> "We send you what we have instead.";
      case CANCEL -> "We have cancelled what was missing. The rest of your order is not changed.";
    };
  }

  private static String button(Answer answer, String text) {
    return "<button name=\"answer\" value=\"%s\">%s</button>".formatted(answer, text);
  }

  private static String page(String title, String body) {
    return """
    <!doctype html><html lang="en"><head><meta charset="utf-8">
    <meta name="viewport" content="width=device-width"><title>%s</title><style>
    body{max-width:34rem;margin:3rem auto;padding:0 1rem;font:1.05rem/1.5 system-ui,sans-serif;
    background:#faf8f3;color:#1f2b2a}h1{font-size:1.4rem}b{white-space:nowrap}
    button{display:block;width:100%%;margin:.6rem 0;padding:.7rem 1rem;font:inherit;text-align:left;
    border:1px solid #1e6f63;border-radius:4px;background:#fff;color:#1e6f63;cursor:pointer}
    button:focus-visible{outline:3px solid #1e6f63;outline-offset:2px}
    @media (prefers-color-scheme:dark){body{background:#141b1a;color:#e8e4da}
    button{background:#1c2524;color:#7cc4b6;border-color:#7cc4b6}}
    </style></head><body><main><h1>%s</h1>%s</main></body></html>
    """
        .formatted(title, title, body);
  }

  private static ResponseEntity<String> html(int status, String page) {
    return ResponseEntity.status(status)
        .contentType(MediaType.TEXT_HTML)
        .header(HttpHeaders.CACHE_CONTROL, "no-store")
        .body(page);
  }
}
