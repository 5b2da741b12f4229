package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.Outbox.Kind;
import dev.ordinator.dispatch.Outbox.Message;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.mail.javamail.MimeMessageHelper;
import org.springframework.mail.javamail.MimeMessagePreparator;
import org.springframework.stereotype.Component;

/** Tells the buyer by mail that a parcel is on its way, or waits to be collected. */
@Component
class ShippedMail implements Outbox.Delivery {
  private final DSLContext db;
  private final Orders orders;
  private final Consignments consignments;
  private final Nodes nodes;
  private final JavaMailSender mail;
  private final OrdinatorSettings settings;

  ShippedMail(
      DSLContext db,
      Orders orders,
      Consignments consignments,
      Nodes nodes,
      JavaMailSender mail,
      OrdinatorSettings settings) {
    this.db = db;
    this.orders = orders;
    this.consignments = consignments;
    this.nodes = nodes;
    this.mail = mail;
    this.settings = settings;
  }

  @Override
  public Kind kind() {
    return Kind.MAIL;
  }

  @Override
  public EventKind told() {
    return EventKind.TOLD_BUYER;
  }

  @Override
  public String deliver(Message message) {
    OrderHead order = orders.head(message.orderId());
    Head consignment = consignments.byId(Objects.requireNonNull(message.consignmentId()));
    mail.send(write(message, order, consignment));
    return "Mail sent to " + order.email();
  }

  private MimeMessagePreparator write(Message message, OrderHead order, Head consignment) {
    return mime -> {
      MimeMessageHelper helper = new MimeMessageHelper(mime, "UTF-8");
      helper.setFrom(settings.mailFrom());
      helper.setTo(order.email());
      helper.setSubject(
          "Your order %s is %s"
              .formatted(
                  order.externalId(), consignment.isCollected() ? "ready for you" : "on its way"));
      helper.setText(text(order, consignment));
      keepId(mime, message.onceKey());
    };
  }

  /**
   * Every attempt carries the same Message-ID (RFC 5322, 3.6.4), so that mail stores see a repeat.
   */
  private static void keepId(MimeMessage mime, String onceKey) throws MessagingException {
    mime.saveChanges();
    mime.setHeader("Message-ID", "<" + onceKey.replace(':', '.') + "@ordinator>");
  }

  private String text(OrderHead order, Head consignment) {
    StringBuilder text =
        new StringBuilder("Dear ")
            .append(order.buyerName())
            .append(
                consignment.isCollected()
                    ? ",\n\nthis is ready for you:\n\n"
                    : ",\n\nthis has left for you today:\n\n");
    consignments
        .lines(consignment.id())
        .forEach(l ->
            text.append("  ").append(l.quantity()).append(" × ").append(l.name()).append('\n'));
    if (consignment.isCollected()) {
      NodeCard node = nodes.byId(consignment.nodeId());
      return text.append("\nCollect it at ")
          .append(
              String.join(", ", node.name(), node.street(), node.postcode() + " " + node.city()))
          .append(".\n\nOrder ")
          .append(order.externalId())
          .append('\n')
          .toString();
    }
    text.append("\nIt should arrive by ").append(Texts.date(consignment.arrivalOn())).append(".\n");
    trackings(consignment.id())
        .forEach(t ->
            text.append("Follow it: ")
                .append(consignment.trackingUrl().replace("{tracking}", t))
                .append('\n'));
    return text.append("\nOrder ").append(order.externalId()).append('\n').toString();
  }

  private List<String> trackings(long consignmentId) {
    return db.select(PARCEL.TRACKING)
        .from(PARCEL)
        .where(PARCEL.CONSIGNMENT_ID.eq(consignmentId))
        .orderBy(PARCEL.ID)
        .fetch(PARCEL.TRACKING);
  }
}
