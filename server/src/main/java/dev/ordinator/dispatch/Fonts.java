package dev.ordinator.dispatch;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import org.openpdf.text.Font;
import org.openpdf.text.pdf.BaseFont;

/** The documents' typeface, shipped with the application: names come in many alphabets. */
final class Fonts {
  private static final BaseFont REGULAR = load("DejaVuSans.ttf");
  private static final BaseFont BOLD = load("DejaVuSans-Bold.ttf");

  private Fonts() {}

  static Font of(float size, boolean bold) {
    return new Font(bold ? BOLD : REGULAR, size);
  }

  private static BaseFont load(String file) {
    try (InputStream in = Fonts.class.getResourceAsStream("/fonts/" + file)) {
      if (in == null) {
        throw new IllegalStateException(file + " is missing from the jar");
      }
      return BaseFont.createFont(
          file, BaseFont.IDENTITY_H, BaseFont.EMBEDDED, true, in.readAllBytes(), null);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
