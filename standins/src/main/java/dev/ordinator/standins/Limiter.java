package dev.ordinator.standins;

/** Admits so many requests in each second. */
final class Limiter {
  private final int perSecond;
  private long second;
  private int admitted;

  Limiter(int perSecond) {
    this.perSecond = perSecond;
  }

  synchronized boolean admits() {
    long now = System.nanoTime() / 1_000_000_000;
    if (now != second) {
      second = now;
      admitted = 0;
    }
    return ++admitted <= perSecond;
  }
}
