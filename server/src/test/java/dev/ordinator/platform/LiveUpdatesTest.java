package dev.ordinator.platform;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;

/** What an open browser is told by itself. */
class LiveUpdatesTest {

  @Test
  void aBrowserAtOneInstanceHearsOfWhatAnotherDidAndIsLetGoAtTheEnd() throws Exception {
    List<String> heard = new CopyOnWriteArrayList<>();
    Thread listener;
    try (TestWorld world = TestWorld.installed()) {
      var idle = world.addInstance("--ordinator.working=false");
      Visitor mara = Visitor.loggedIn(TestWorld.address(idle), "mara");
      listener = Thread.ofVirtual().start(() -> mara.listen("/api/live", heard::add));
      await("it listens").until(() -> heard.stream().anyMatch(l -> l.contains("listening")));

      world.addInstance();
      world.shop().place(Sample.order("LU1"));
      await("it hears of the order, step by step")
          .until(() ->
              heard.stream().anyMatch(l -> l.contains("RECEIVED"))
                  && heard.stream().anyMatch(l -> l.contains("RELEASED")));
    }
    listener.join();
    assertThat(heard).anyMatch(line -> line.startsWith("event:changed"));
  }
}
