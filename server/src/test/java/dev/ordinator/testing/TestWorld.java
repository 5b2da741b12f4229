package dev.ordinator.testing;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import dev.ordinator.OrdinatorApplication;
import dev.ordinator.demo.DemoWorld;
import dev.ordinator.mariadb.PrivateMariaDb;
import dev.ordinator.standins.Shop;
import dev.ordinator.standins.StandIns;
import dev.ordinator.stock.StockLedger;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.awaitility.Awaitility;
import org.awaitility.core.ConditionFactory;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;

/** The demo world with its stand-ins, in a database of its own, and the real application on it. */
public final class TestWorld implements AutoCloseable {
  private static final AtomicInteger DATABASES = new AtomicInteger();
  private static final Duration PATIENCE = Duration.ofMinutes(3);

  private final String url;
  private final StandIns standIns;
  private final List<ConfigurableApplicationContext> instances = new ArrayList<>();
  private final DSLContext db;

  private TestWorld() throws IOException {
    url = PrivateMariaDb.shared().jdbcUrl("world" + DATABASES.incrementAndGet());
    standIns = StandIns.start(StandIns.Ports.ANY);
    standIns.carrier().pace(Duration.ofSeconds(0));
    db = DSL.using(url, PrivateMariaDb.USER, PrivateMariaDb.PASSWORD);
  }

  /** The world with one instance at work. */
  public static TestWorld started() throws IOException {
    TestWorld world = new TestWorld();
    world.fill(world.addInstance());
    return world;
  }

  /** The world without an instance: only the database is filled. */
  public static TestWorld installed() throws IOException {
    TestWorld world = new TestWorld();
    try (ConfigurableApplicationContext filling = world.run("--ordinator.working=false")) {
      world.fill(filling);
    }
    return world;
  }

  private void fill(ConfigurableApplicationContext instance) {
    instance
        .getBean(DemoWorld.class)
        .install(
            new DemoWorld.Outside(
                shop().url(), standIns.market().url(), standIns.guild().url(), 1));
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
        "--spring.flyway.url=" + url,
        "--spring.flyway.user=" + PrivateMariaDb.USER,
        "--spring.flyway.password=" + PrivateMariaDb.PASSWORD,
        // the application itself may make nothing
        "--spring.datasource.url=" + url.substring(0, url.indexOf('?')),
        "--spring.datasource.username=" + PrivateMariaDb.APPLICATION,
        "--spring.datasource.password=" + PrivateMariaDb.PASSWORD,
        "--spring.mail.port=" + standIns.mailbox().smtpPort(),
        "--ordinator.carrier-url=" + standIns.carrier().url(),
        "--ordinator.key=only-for-tests-0123456789",
        "--ordinator.work-pause=100ms",
        "--ordinator.pull-lease=3s",
        "--ordinator.feed-interval=300ms",
        "--ordinator.outbox-lease=3s",
        "--ordinator.outbox-pause=10ms",
        "--ordinator.tracking-interval=200ms",
        "--ordinator.job-heartbeat=1s");
  }

  public String jdbcUrl() {
    return url;
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
    return url;
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

  /** Waits for what must come, looking often. */
  public static ConditionFactory await(String what) {
    return Awaitility.await(what).atMost(PATIENCE).pollInterval(Duration.ofMillis(50));
  }

  @Override
  public void close() {
    instances.forEach(ConfigurableApplicationContext::close);
    standIns.close();
  }

  private ConfigurableApplicationContext run(String... more) {
    List<String> arguments = new ArrayList<>(options());
    arguments.add("--server.port=0");
    arguments.addAll(List.of(more));
    return SpringApplication.run(OrdinatorApplication.class, arguments.toArray(String[]::new));
  }
}
