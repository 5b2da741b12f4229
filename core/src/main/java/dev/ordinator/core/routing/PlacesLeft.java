package dev.ordinator.core.routing;

import java.time.LocalDate;

/** How many consignments nodes can still hand over on their days. */
@FunctionalInterface
public interface PlacesLeft {

  /**
   * @param node its code
   * @return {@link Integer#MAX_VALUE} if it has no limit; zero or less if that day is full
   */
  int on(String node, LocalDate day);
}
