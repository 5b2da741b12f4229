package dev.ordinator.standins;

import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.openpdf.text.Document;
import org.openpdf.text.Font;
import org.openpdf.text.FontFactory;
import org.openpdf.text.Image;
import org.openpdf.text.PageSize;
import org.openpdf.text.Paragraph;
import org.openpdf.text.pdf.PdfWriter;
import tools.jackson.databind.JsonNode;
import uk.org.okapibarcode.backend.Code128;
import uk.org.okapibarcode.graphics.Color;
import uk.org.okapibarcode.output.Java2DRenderer;

/** A label on A6, with the tracking number and the SSCC as Code 128. */
final class LabelPaper {
  private static final int SCALE = 4;

  private LabelPaper() {}

  static byte[] pdf(String tracking, JsonNode shipment) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Document page = new Document(PageSize.A6, 20, 20, 20, 20);
    PdfWriter.getInstance(page, out);
    page.open();
    Font small = FontFactory.getFont(FontFactory.HELVETICA, 8);
    Font large = FontFactory.getFont(FontFactory.HELVETICA_BOLD, 13);
    page.add(
        new Paragraph(
            shipment.path("carrier").asString("") + " · " + shipment.path("service").asString(""),
            large));
    page.add(new Paragraph("from " + party(shipment.path("from")), small));
    page.add(new Paragraph(party(shipment.path("to")), large));
    page.add(barcode(tracking));
    page.add(barcode(shipment.path("sscc").asString("0")));
    page.add(new Paragraph(shipment.path("reference").asString(""), small));
    page.close();
    return out.toByteArray();
  }

  private static String party(JsonNode party) {
    return String.join(
        "\n",
        party.path("name").asString(""),
        party.path("street").asString(""),
        party.path("postcode").asString("") + " " + party.path("city").asString(""),
        party.path("country").asString(""));
  }

  private static Image barcode(String content) {
    Code128 code = new Code128();
    code.setContent(content);
    BufferedImage picture =
        new BufferedImage(
            code.getWidth() * SCALE, code.getHeight() * SCALE, BufferedImage.TYPE_BYTE_GRAY);
    Graphics2D pen = picture.createGraphics();
    new Java2DRenderer(pen, SCALE, Color.WHITE, Color.BLACK).render(code);
    pen.dispose();
    try {
      Image image = Image.getInstance(picture, null);
      image.scalePercent(100f / SCALE);
      image.setSpacingBefore(8);
      return image;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
