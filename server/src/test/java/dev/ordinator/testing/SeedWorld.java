package dev.ordinator.testing;

import dev.ordinator.OrdinatorApplication;
import dev.ordinator.demo.DemoPast;
import dev.ordinator.mariadb.PrivateMariaDb;
import dev.ordinator.standins.StandIns;
import java.io.IOException;
import java.time.Instant;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** Makes one small demo world after the other, each with its past, as the launcher's seed does. */
public final class SeedWorld implements AutoCloseable {
  private static final long SEED = 20261124;

  private final PrivateMariaDb database = PrivateMariaDb.start();
  private StandIns standIns = StandIns.start(StandIns.Ports.ANY);
  private final ConfigurableApplicationContext application;
  private final DSLContext db;
  private final Snapshot empty;

  public SeedWorld() throws IOException {
    String url = database.jdbcUrl("seed");
    application =
        new SpringApplicationBuilder(OrdinatorApplication.class)
            .profiles("seed")
            .run(
                "--spring.datasource.url=" + url,
                "--spring.datasource.username=" + PrivateMariaDb.USER,
                "--spring.datasource.password=" + PrivateMariaDb.PASSWORD,
                "--spring.mail.port=" + standIns.mailbox().smtpPort(),
                "--ordinator.carrier-url=" + standIns.carrier().url(),
                "--ordinator.rates-url=" + standIns.rates().url(),
                "--ordinator.key=only-for-tests-0123456789",
                "--ordinator.private-addresses=true",
                "--ordinator.working=false",
                "--server.port=0");
    db = DSL.using(url, PrivateMariaDb.USER, PrivateMariaDb.PASSWORD);
    empty = Snapshot.of(db);
  }

  /** Makes a world in place of the one before. */
  public void make(Instant end, int days, int orders) throws IOException {
    empty.putBack();
    standIns = standIns.anew();
    application
        .getBean(DemoPast.class)
        .make(
            new DemoPast.Wanted(end, SEED, days, orders),
            new DemoPast.Channels(
                standIns.shop().url(), standIns.market().url(), standIns.guild().url()));
  }

  public DSLContext db() {
    return db;
  }

  public <T> T bean(Class<T> type) {
    return application.getBean(type);
  }

  @Override
  public void close() {
    application.close();
    standIns.close();
    database.close();
  }
}
