package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;

import dev.ordinator.access.Role;
import dev.ordinator.access.Users;
import dev.ordinator.core.catalog.Gtin;
import dev.ordinator.demo.DemoLots.Opened;
import dev.ordinator.platform.Transactions;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Installs the demo world into an empty database. Generated from a fixed seed. */
@Component
public class DemoWorld {
  private static final long SEED = 20261124;
  private static final long SHORT_UNITS = 8;

  /** The item that ran out some time ago, so that orders wait for it. */
  public static final String SHORT_SKU = "FO-DEEP-WAX-5";

  /** The item of which we keep few: once they are gone, its supplier sends it. */
  static final String SUPPLIED_SKU = "CNDL-TEA";

  /** The item that is sold ahead of its season. */
  static final String SPRING_SKU = "CAGE-10";

  private static final long SUPPLIED_UNITS = 14;

  private final DSLContext db;
  private final Transactions transactions;
  private final Users users;
  private final DemoLots lots;
  private final DemoNetwork network;
  private final DemoRulebook rulebook;
  private final DemoChannels channels;
  private final DemoKits kits;
  private final DemoSuppliers suppliers;

  DemoWorld(
      DSLContext db,
      Transactions transactions,
      Users users,
      DemoLots lots,
      DemoNetwork network,
      DemoRulebook rulebook,
      DemoChannels channels,
      DemoKits kits,
      DemoSuppliers suppliers) {
    this.db = db;
    this.transactions = transactions;
    this.users = users;
    this.lots = lots;
    this.network = network;
    this.rulebook = rulebook;
    this.channels = channels;
    this.kits = kits;
    this.suppliers = suppliers;
  }

  /** Who can log in to the demo. */
  public record Login(String username, String displayName, String password, Role role) {}

  public static final List<Login> LOGINS =
      List.of(
          new Login("mara", "Mara", "clover-meadow-7", Role.MANAGER),
          new Login("joss", "Joss", "smoker-and-tool-3", Role.PACKER),
          new Login("vera", "Vera", "only-looking-9", Role.READER));

  /** Where the channels' stand-ins are, and how often the shop is asked; the others less often. */
  public record Outside(String shop, String market, String guild, int intervalSeconds) {}

  /** Whether there is anything in the database already. */
  public boolean isInstalled() {
    return db.fetchExists(NODE);
  }

  public void install(Outside outside) {
    transactions.run(() -> {
      network.install();
      rulebook.install();
      items();
      kits.install();
      suppliers.install();
      channels.install(outside);
      stock();
      long stillwater =
          db.select(NODE.ID).from(NODE).where(NODE.CODE.eq("STW")).fetchSingle().value1();
      LOGINS.forEach(l ->
          users.add(
              l.username(),
              l.displayName(),
              l.password(),
              l.role(),
              l.role() == Role.PACKER ? stillwater : null));
    });
  }

  private void items() {
    int nth = 0;
    for (CSVRecord row : csv("/demo/items.csv")) {
      long price = Long.parseLong(row.get("price"));
      // bought for 38 to 52 % of what it sells for
      long cost = price * (38 + nth++ * 7 % 15) / 100;
      boolean hasSizes = row.get("category").equals("clothing");
      db.insertInto(ITEM)
          .set(ITEM.SKU, row.get("sku"))
          .set(ITEM.NAME, row.get("name"))
          .set(ITEM.GTIN, new Gtin(row.get("gtin")).normalized())
          .set(ITEM.CATEGORY, row.get("category"))
          .set(ITEM.WEIGHT, Long.parseLong(row.get("weight")))
          .set(ITEM.VOLUME, Long.parseLong(row.get("volume")))
          .set(ITEM.HAZARD, row.get("hazard").isEmpty() ? null : row.get("hazard"))
          .set(ITEM.BANNED_COUNTRIES, row.get("banned"))
          .set(ITEM.LIST_PRICE, price)
          .set(ITEM.COST, cost)
          .set(ITEM.FAMILY, hasSizes ? row.get("sku").replaceFirst("-[^-]+$", "") : "")
          .set(ITEM.DESCRIPTION, row.get("name") + ", for the apiary.")
          .execute();
    }
  }

  /** The warehouse has nearly everything, the stores and the depot the smaller goods. */
  private void stock() {
    Random random = new Random(SEED);
    // what suppliers have, their files say
    var nodes =
        db.select(NODE.ID, NODE.CODE)
            .from(NODE)
            .where(NODE.KIND.ne("SUPPLIER"))
            .orderBy(NODE.POSITION)
            .fetch();
    Map<Long, List<Opened>> opened = new LinkedHashMap<>();
    int nth = 0;
    for (var item :
        db.select(ITEM.ID, ITEM.SKU, ITEM.WEIGHT, ITEM.CATEGORY).from(ITEM).orderBy(ITEM.ID)) {
      for (var node : nodes) {
        long units = units(random, item.value2(), item.value3(), node.value2().equals("STW"));
        Opened here = new Opened(item.value1(), item.value2(), item.value4(), units, nth);
        if (units > 0) {
          opened.computeIfAbsent(node.value1(), n -> new ArrayList<>()).add(here);
        }
      }
      lots.track(new Opened(item.value1(), item.value2(), item.value4(), 0, nth++));
    }
    LocalDate today = lots.today();
    nodes.forEach(node ->
        lots.open(
            node.value1(),
            node.value2().equals("STW"),
            opened.getOrDefault(node.value1(), List.of()),
            today));
  }

  private static long units(Random random, String sku, long weight, boolean warehouse) {
    boolean bulky = weight > 6_000;
    long units =
        warehouse ? 40 + random.nextInt(120) : bulky ? 0 : Math.max(0, random.nextInt(24) - 6);
    if (DemoKits.SKUS.contains(sku)) {
      // a few are put together in advance
      return warehouse && sku.equals(DemoKits.READY_MADE) ? 4 : 0;
    }
    return switch (sku) {
      case SHORT_SKU -> warehouse ? SHORT_UNITS : 0;
      case SUPPLIED_SKU -> warehouse ? SUPPLIED_UNITS : 0;
      default -> units;
    };
  }

  private static List<CSVRecord> csv(String resource) {
    try (Reader in =
        new InputStreamReader(
            Objects.requireNonNull(DemoWorld.class.getResourceAsStream(resource)),
            StandardCharsets.UTF_8)) {
      return CSVFormat.RFC4180
          .builder()
          .setHeader()
          .setSkipHeaderRecord(true)
          .get()
          .parse(in)
          .getRecords();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
