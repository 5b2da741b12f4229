package dev.ordinator.standins;

/** Starts the outside world. */
public final class StandIns {
  private StandIns() {}

  public static void main(String[] args) {}
}
