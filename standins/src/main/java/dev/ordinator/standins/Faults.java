package dev.ordinator.standins;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.UnaryOperator;

/** Faults on demand for a stand-in's API. */
public final class Faults {
  private final AtomicInteger failing = new AtomicInteger();
  private final AtomicInteger garbling = new AtomicInteger();
  private final AtomicInteger limiting = new AtomicInteger();
  private volatile UnaryOperator<String> rewriting = UnaryOperator.identity();
  private volatile CountDownLatch held = new CountDownLatch(0);
  private volatile int delayMillis;
  private volatile int retryAfterSeconds;

  /** The next requests are answered 500. */
  public void failNext(int requests) {
    failing.set(requests);
  }

  /** The next answers are cut off in the middle. */
  public void garbleNext(int answers) {
    garbling.set(answers);
  }

  /** The next requests are answered 429: too many, come back in so many seconds. */
  public void limitNext(int requests, int seconds) {
    retryAfterSeconds = seconds;
    limiting.set(requests);
  }

  /** Every answer comes late; what it did is done at once. */
  public void delay(int millis) {
    delayMillis = millis;
  }

  /** No answer comes any more; what they do is done at once. */
  public void hang() {
    held = new CountDownLatch(1);
  }

  /** The answers that hung come now, and all others as ever. */
  public void goOn() {
    held.countDown();
  }

  /** Every answer's text is changed so; for what nobody thought of. */
  public void rewrite(UnaryOperator<String> how) {
    rewriting = how;
  }

  Web.Answer apply(Web.Handler handler, Web.Request request)
      throws IOException, InterruptedException {
    if (takeOne(failing)) {
      return Web.Answer.json(500, Map.of("error", "out of order"));
    }
    if (takeOne(limiting)) {
      return Web.Answer.tooMany(retryAfterSeconds);
    }
    Web.Answer answer = rewritten(handler.handle(request));
    held.await();
    if (delayMillis > 0) {
      Thread.sleep(delayMillis);
    }
    if (takeOne(garbling)) {
      return Web.Answer.text(
          200,
          answer.type(),
          new String(
              Arrays.copyOf(answer.body(), answer.body().length / 2), StandardCharsets.UTF_8));
    }
    return answer;
  }

  private Web.Answer rewritten(Web.Answer answer) {
    String text = rewriting.apply(new String(answer.body(), StandardCharsets.UTF_8));
    return new Web.Answer(
        answer.status(), answer.type(), text.getBytes(StandardCharsets.UTF_8), answer.headers());
  }

  void set(Map<String, String> form) {
    failNext(number(form, "fail"));
    garbleNext(number(form, "garble"));
    limitNext(number(form, "limit"), 3);
    delay(number(form, "delay"));
  }

  private static int number(Map<String, String> form, String name) {
    String text = form.getOrDefault(name, "");
    return text.isBlank() ? 0 : Integer.parseInt(text);
  }

  private static boolean takeOne(AtomicInteger left) {
    return left.getAndUpdate(n -> Math.max(0, n - 1)) > 0;
  }
}
