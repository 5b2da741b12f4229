package dev.ordinator.testing;

import static dev.ordinator.schema.Tables.APP_USER;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static java.util.Objects.requireNonNull;

import com.github.kagkarlsson.scheduler.Scheduler;
import dev.ordinator.OrdinatorApplication;
import dev.ordinator.demo.DemoWorld;
import dev.ordinator.mariadb.PrivateMariaDb;
import dev.ordinator.platform.WorkLoops;
import dev.ordinator.standins.Shop;
import dev.ordinator.standins.StandIns;
import dev.ordinator.stock.StockLedger;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.awaitility.Awaitility;
import org.awaitility.core.ConditionFactory;
import org.awaitility.pollinterval.IterativePollInterval;
import org.awaitility.pollinterval.PollInterval;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;

/** The demo world with its stand-ins, in a database of its own, and the real application on it. */
public final class TestWorld implements AutoCloseable {
  /** What a channel's messages that were under way need to come to an end. */
  private static final Duration QUIET = Duration.ofMillis(100);

  private static @Nullable PrivateMariaDb template;
  private static @Nullable TestWorld common;

  /** Long, for machines that do much else; whoever looks for a fault shortens it. */
  private static final Duration PATIENCE = Duration.ofSeconds(Long.getLong("test.patience", 600));

  private static final Duration SELDOM = Duration.ofMillis(250);

  private static final PollInterval LOOKING =
      IterativePollInterval.iterative(
          pause -> pause.compareTo(SELDOM) < 0 ? pause.multipliedBy(4).dividedBy(3) : pause,
          Duration.ofMillis(30));

  private final PrivateMariaDb database;
  private StandIns standIns;
  private final List<ConfigurableApplicationContext> instances = new ArrayList<>();
  private final DSLContext db;
  private @Nullable Snapshot untouched;

  private TestWorld(PrivateMariaDb database) throws IOException {
    this.database = database;
    standIns = StandIns.start(StandIns.Ports.ANY);
    standIns.carrier().pace(Duration.ofSeconds(0));
    db = DSL.using(url(), PrivateMariaDb.USER, PrivateMariaDb.PASSWORD);
  }

  /** The world with one instance at work. */
  public static TestWorld started() throws IOException {
    TestWorld world = installed();
    world.addInstance();
    return world;
  }

  /**
   * The world of this process, with one instance at work, as if nothing had happened in it yet. It
   * serves one test class after the other, and is never closed.
   */
  public static synchronized TestWorld fresh() throws IOException {
    TestWorld world = common;
    if (world == null) {
      world = started();
      world.untouched = Snapshot.of(world.db);
      common = world;
    } else {
      world.beginAnew();
    }
    return world;
  }

  private void beginAnew() throws IOException {
    while (instances.size() > 1) {
      instances.removeLast().close();
    }
    Scheduler jobs = bean(Scheduler.class);
    WorkLoops loops = bean(WorkLoops.class);
    jobs.pause();
    loops.stop();
    await("all work has ended").during(QUIET).until(() -> jobs.getCurrentlyExecuting().isEmpty());
    standIns = standIns.anew();
    standIns.carrier().pace(Duration.ZERO);
    requireNonNull(untouched).putBack();
    findChannels();
    standIns.hooksTo(address());
    loops.start();
    jobs.resume();
  }

  /** The world without an instance: only the database is filled. */
  public static TestWorld installed() throws IOException {
    TestWorld world = new TestWorld(PrivateMariaDb.copyOf(template()));
    world.findChannels();
    return world;
  }

  /** A database that holds the demo world: migrated and filled once, and then copied. */
  private static synchronized PrivateMariaDb template() throws IOException {
    if (template == null) {
      TestWorld first = new TestWorld(PrivateMariaDb.start());
      try (ConfigurableApplicationContext filling = first.run("--ordinator.working=false")) {
        StandIns outside = first.standIns;
        filling
            .getBean(DemoWorld.class)
            .install(
                new DemoWorld.Outside(
                    outside.shop().url(), outside.market().url(), outside.guild().url(), 1));
      }
      first.hurryLogins();
      first.standIns.close();
      first.database.shutDown();
      template = first.database;
    }
    return template;
  }

  /** A password is tried as slowly as its hash was made: here, where hundreds log in, fast. */
  private void hurryLogins() {
    BCryptPasswordEncoder fast = new BCryptPasswordEncoder(4);
    DemoWorld.LOGINS.forEach(login ->
        db.update(APP_USER)
            .set(APP_USER.PASSWORD_HASH, fast.encode(login.password()))
            .where(APP_USER.USERNAME.eq(login.username()))
            .execute());
  }

  private void findChannels() {
    moveChannel("WEB", standIns.shop().url());
    moveChannel("MARKET", standIns.market().url());
    moveChannel("GUILD", standIns.guild().url());
  }

  private void moveChannel(String code, String address) {
    db.update(CHANNEL).set(CHANNEL.BASE_URL, address).where(CHANNEL.CODE.eq(code)).execute();
  }

  /** Starts another instance on the same database; channels' webhooks go to the latest. */
  public ConfigurableApplicationContext addInstance(String... more) {
    ConfigurableApplicationContext instance = run(more);
    instances.add(instance);
    standIns.hooksTo(address(instance));
    return instance;
  }

  /** Starts an instance in a process of its own, which can be killed. */
  public ApplicationProcess process() throws IOException {
    ApplicationProcess process = ApplicationProcess.start(options());
    standIns.hooksTo(process.address());
    return process;
  }

  /** How an instance is told of its world. */
  private List<String> options() {
    return List.of(
        "--spring.flyway.url=" + url(),
        "--spring.flyway.user=" + PrivateMariaDb.USER,
        "--spring.flyway.password=" + PrivateMariaDb.PASSWORD,
        // the application itself may make nothing
        "--spring.datasource.url=" + url().substring(0, url().indexOf('?')),
        "--spring.datasource.username=" + PrivateMariaDb.APPLICATION,
        "--spring.datasource.password=" + PrivateMariaDb.PASSWORD,
        // a machine that does much else at the same time keeps everybody waiting
        "--spring.datasource.hikari.connection-timeout=60000",
        "--spring.mail.port=" + standIns.mailbox().smtpPort(),
        "--ordinator.carrier-url=" + standIns.carrier().url(),
        "--ordinator.key=only-for-tests-0123456789",
        "--ordinator.private-addresses=true",
        "--ordinator.work-pause=100ms",
        "--ordinator.pull-lease=3s",
        "--ordinator.feed-interval=300ms",
        "--ordinator.outbox-lease=3s",
        "--ordinator.outbox-pause=10ms",
        "--ordinator.tracking-interval=200ms",
        "--ordinator.job-heartbeat=1s");
  }

  public String address() {
    return address(instances.getLast());
  }

  public static String address(ConfigurableApplicationContext instance) {
    return "http://127.0.0.1:" + instance.getEnvironment().getProperty("local.server.port");
  }

  public StandIns standIns() {
    return standIns;
  }

  public Shop shop() {
    return standIns.shop();
  }

  /** Where the database is, for JDBC. */
  public String url() {
    return database.jdbcUrl("world");
  }

  public DSLContext db() {
    return db;
  }

  public <T> T bean(Class<T> type) {
    return instances.getLast().getBean(type);
  }

  /** Whatever our nodes have of an item is gone. */
  public void scrapAll(String sku) {
    db().select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, STOCK_LEVEL.ON_HAND)
        .from(STOCK_LEVEL)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .where(ITEM.SKU.eq(sku))
        .and(STOCK_LEVEL.ON_HAND.gt(0L))
        .forEach(r ->
            bean(StockLedger.class)
                .adjust(r.value1(), r.value2(), -r.value3(), StockLedger.Reason.SCRAP, "test", ""));
  }

  public List<ConfigurableApplicationContext> instances() {
    return instances;
  }

  /** Somebody at a browser, logged in as one of the demo's people. */
  public Visitor visitor(String username) {
    return Visitor.loggedIn(address(), username);
  }

  /** Waits for what must come, looking often at first: most of it comes at once. */
  public static ConditionFactory await(String what) {
    return Awaitility.await(what).atMost(PATIENCE).pollInterval(LOOKING);
  }

  @Override
  public void close() {
    if (this == common) {
      return;
    }
    instances.forEach(ConfigurableApplicationContext::close);
    standIns.close();
    database.close();
  }

  private ConfigurableApplicationContext run(String... more) {
    List<String> arguments = new ArrayList<>(options());
    arguments.add("--server.port=0");
    for (String option : more) {
      String name = option.substring(0, option.indexOf('=') + 1);
      arguments.removeIf(known -> known.startsWith(name));
      arguments.add(option);
    }
    return SpringApplication.run(OrdinatorApplication.class, arguments.toArray(String[]::new));
  }
}
