package dev.ordinator.dispatch;

import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.Consignments.Line;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.NewOrder.Wish;
import dev.ordinator.orders.OrderHead;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Map;
import org.openpdf.text.Document;
import org.openpdf.text.Font;
import org.openpdf.text.Image;
import org.openpdf.text.PageSize;
import org.openpdf.text.Paragraph;
import org.openpdf.text.Phrase;
import org.openpdf.text.Rectangle;
import org.openpdf.text.pdf.PdfPCell;
import org.openpdf.text.pdf.PdfPTable;
import org.openpdf.text.pdf.PdfWriter;
import uk.org.okapibarcode.backend.Code128;
import uk.org.okapibarcode.output.Java2DRenderer;

/** The paper that goes into the parcel, with the consignment's number as Code 128. */
final class PackingSlip {
  private static final float MARGIN = 40;

  private PackingSlip() {}

  /**
   * @param wishes what is to be made of the order's lines
   * @param giftMessage to the receiver; empty: none
   */
  static byte[] pdf(
      OrderHead order,
      Head consignment,
      NodeCard node,
      List<Line> lines,
      Map<Long, List<Wish>> wishes,
      String giftMessage) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Document page = new Document(PageSize.A5, MARGIN, MARGIN, MARGIN, MARGIN);
    PdfWriter.getInstance(page, out);
    page.open();
    page.add(new Paragraph("Packing slip " + consignment.number(), Fonts.of(15, true)));
    page.add(
        new Paragraph(
            "Order %s · %s %s, %s"
                .formatted(
                    order.externalId(),
                    consignment.isCollected() ? "collected at" : "sent from",
                    node.name(),
                    node.city()),
            Fonts.of(9, false)));
    page.add(barcode(consignment.number()));
    page.add(new Paragraph(receiver(order, consignment), Fonts.of(10, false)));
    page.add(table(lines, wishes));
    if (!giftMessage.isBlank()) {
      page.add(new Paragraph(giftMessage, Fonts.of(11, false)));
    }
    page.add(new Paragraph(consignment.units() + " units in this parcel", Fonts.of(9, false)));
    page.close();
    return out.toByteArray();
  }

  private static String receiver(OrderHead order, Head consignment) {
    return consignment.isCollected()
        ? "For " + order.shipTo().name()
        : String.join(
            "\n",
            order.shipTo().name(),
            order.shipTo().street(),
            order.shipTo().postcode() + " " + order.shipTo().city(),
            order.shipTo().country());
  }

  private static PdfPTable table(List<Line> lines, Map<Long, List<Wish>> wishes) {
    PdfPTable table = new PdfPTable(new float[] {1, 3, 6});
    table.setWidthPercentage(100);
    table.setSpacingBefore(14);
    table.setSpacingAfter(8);
    for (String head : List.of("Units", "SKU", "Item")) {
      table.addCell(cell(head, Fonts.of(9, true)));
    }
    String kit = "";
    for (Line line : lines) {
      if (line.kit() != null && !line.kit().equals(kit)) {
        PdfPCell heading = cell(line.kit() + ", of:", Fonts.of(9, true));
        heading.setColspan(3);
        table.addCell(heading);
      }
      kit = line.kit() == null ? "" : line.kit();
      table.addCell(cell(Long.toString(line.quantity()), Fonts.of(10, false)));
      table.addCell(cell(line.sku(), Fonts.of(10, false)));
      table.addCell(
          cell(
              line.instead() == null ? line.name() : line.name() + ", instead of " + line.instead(),
              Fonts.of(10, false)));
      for (Wish wish : wishes.getOrDefault(line.orderLineId(), List.of())) {
        PdfPCell text = cell(words(wish), Fonts.of(9, false));
        text.setColspan(3);
        text.setPaddingLeft(20);
        table.addCell(text);
      }
    }
    return table;
  }

  private static String words(Wish wish) {
    String name = wish.name().isBlank() ? "" : wish.name() + ": ";
    return (name + wish.text() + (wish.file().isBlank() ? "" : " file " + wish.file())).strip();
  }

  private static PdfPCell cell(String text, Font font) {
    PdfPCell cell = new PdfPCell(new Phrase(text, font));
    cell.setBorder(Rectangle.BOTTOM);
    cell.setBorderColor(Color.LIGHT_GRAY);
    cell.setPadding(4);
    return cell;
  }

  private static Image barcode(String content) {
    Code128 code = new Code128();
    code.setContent(content);
    int scale = 4;
    BufferedImage picture =
        new BufferedImage(
            code.getWidth() * scale, code.getHeight() * scale, BufferedImage.TYPE_BYTE_GRAY);
    Graphics2D pen = picture.createGraphics();
    new Java2DRenderer(
            pen,
            scale,
            uk.org.okapibarcode.graphics.Color.WHITE,
            uk.org.okapibarcode.graphics.Color.BLACK)
        .render(code);
    pen.dispose();
    try {
      Image image = Image.getInstance(picture, null);
      image.scalePercent(100f / scale);
      image.setSpacingBefore(10);
      image.setSpacingAfter(10);
      return image;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
