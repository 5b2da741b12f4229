package dev.ordinator.core.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class ElementStringTest {
  private static final String GTIN = "04006381333931";

  @Test
  void readsWhatIsPrintedUnderTheBars() {
    assertThat(ElementString.parse("(01)" + GTIN + "(17)271130(10)S-2026-11"))
        .contains(new ElementString(GTIN, "S-2026-11", null));
    assertThat(ElementString.parse("(01)" + GTIN + "(21)X 17"))
        .contains(new ElementString(GTIN, null, "X 17"));
  }

  @Test
  void readsWhatScannersSend() {
    assertThat(ElementString.parse("]C101" + GTIN + "10S-2026-11\u001d17271130"))
        .contains(new ElementString(GTIN, "S-2026-11", null));
    assertThat(ElementString.parse("\u001d01" + GTIN + "1727113021X17"))
        .contains(new ElementString(GTIN, null, "X17"));
  }

  @Test
  void leavesOtherCodesAlone() {
    for (String other :
        new String[] {
          "",
          "SMOKER-L",
          "4006381333931",
          GTIN,
          "(10)S-2026-11",
          "(01)123(10)A",
          "(01)" + GTIN + " and (10)A",
          "01" + GTIN + "17271"
        }) {
      assertThat(ElementString.parse(other)).as(other).isEmpty();
    }
  }
}
