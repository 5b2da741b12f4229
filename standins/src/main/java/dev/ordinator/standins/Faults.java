package dev.ordinator.standins;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;

/** Faults on demand for a stand-in's API. */
public final class Faults {
  private final AtomicInteger failing = new AtomicInteger();
  private final AtomicInteger garbling = new AtomicInteger();
  private volatile int delayMillis;

  /** The next requests are answered 500. */
  public void failNext(int requests) {
    failing.set(requests);
  }

  /** The next answers are cut off in the middle. */
  public void garbleNext(int answers) {
    garbling.set(answers);
  }

  /** Every answer comes late; what it did is done at once. */
  public void delay(int millis) {
    delayMillis = millis;
  }

  Web.Answer apply(Web.Handler handler, Web.Request request)
      throws IOException, InterruptedException {
    if (takeOne(failing)) {
      return Web.Answer.json(500, Map.of("error", "out of order"));
    }
    Web.Answer answer = handler.handle(request);
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

  void set(Map<String, String> form) {
    failNext(number(form, "fail"));
    garbleNext(number(form, "garble"));
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
