package dev.ordinator.demo;

import dev.ordinator.OrdinatorApplication;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;

/** Fills an empty database with the demo world: a process of its own, started by the launcher. */
@Configuration
@Profile("seed")
public class DemoSeed {
  private static final Logger LOG = LoggerFactory.getLogger(DemoSeed.class);
  private static final int DAYS = 60;

  public static void main(String[] args) {
    try (ConfigurableApplicationContext context =
        new SpringApplicationBuilder(OrdinatorApplication.class)
            .profiles("seed")
            .run(arguments(args))) {
      LOG.info("seeded");
    }
  }

  /** Later arguments win: a port of its own, and no work but what the past does. */
  private static String[] arguments(String[] given) {
    return Stream.concat(
            Arrays.stream(given), Stream.of("--server.port=0", "--ordinator.working=false"))
        .toArray(String[]::new);
  }

  @Bean
  SetClock seedClock() {
    return new SetClock();
  }

  /**
   * @param until the moment at which the past ends, such as 2026-12-01T09:40:00Z; empty: now
   */
  @Bean
  @ConditionalOnProperty("demo.shop-url")
  ApplicationRunner seed(
      DemoPast past,
      @Value("${demo.shop-url}") String shopUrl,
      @Value("${demo.market-url}") String marketUrl,
      @Value("${demo.guild-url}") String guildUrl,
      @Value("${demo.until:}") String until,
      @Value("${demo.seed:20261124}") long seed,
      @Value("${demo.orders:600}") int orders) {
    return arguments -> {
      Instant end = until.isEmpty() ? Clock.systemUTC().instant() : Instant.parse(until);
      past.make(
          new DemoPast.Wanted(end, seed, DAYS, orders),
          new DemoPast.Channels(shopUrl, marketUrl, guildUrl));
    };
  }
}
