package dev.ordinator.e2e;

import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** An order that comes by telephone. */
@ExtendWith(Stage.class)
class PhoneJourneyTest {

  @Test
  void anOrderByTelephoneIsEnteredWithTheKeysAndGoesItsWay() {
    try (Desk mara = Stage.desk("mara")) {
      Stage.world().shop().place(Sample.order("BEFORE-PHONE"));
      Stage.released("BEFORE-PHONE");
      mara.list("/orders?pile=ALL");
      mara.press("n");
      mara.field("Buyer").fill("Gerda Holm");
      mara.field("Street").fill("Lindepad 3");
      mara.field("Postcode").fill("1012 AB");
      mara.field("Town").fill("Amsterdam");
      mara.isAccessible();
      mara.field("Item").fill("BRUSH");
      mara.sees("Stillwater");
      mara.click("Enter the order");
      mara.sees("Entered; it goes its way");
      mara.seesHeading("PH-");
    }
  }
}
