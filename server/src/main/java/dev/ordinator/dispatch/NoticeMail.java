package dev.ordinator.dispatch;

import dev.ordinator.dispatch.Outbox.Kind;
import dev.ordinator.dispatch.Outbox.Message;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.OrdinatorSettings;
import java.util.List;
import java.util.Locale;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** Tells somebody by mail that a rule named them. */
@Component
class NoticeMail implements Outbox.Delivery {
  private final Orders orders;
  private final JavaMailSender mail;
  private final OrdinatorSettings settings;

  NoticeMail(Orders orders, JavaMailSender mail, OrdinatorSettings settings) {
    this.orders = orders;
    this.mail = mail;
    this.settings = settings;
  }

  @Override
  public Kind kind() {
    return Kind.NOTICE;
  }

  @Override
  public EventKind told() {
    return EventKind.TOLD_PERSON;
  }

  @Override
  public String deliver(Message message) {
    OrderHead order = orders.head(message.orderId());
    List<String> body = message.body().lines().toList();
    SimpleMailMessage notice = new SimpleMailMessage();
    notice.setFrom(settings.mailFrom());
    notice.setTo(body.getFirst());
    notice.setSubject("%s of %s".formatted(order.number(), order.buyerName()));
    notice.setText(
        "%s, to %s, %s, stands at %s.\n\nRules: %s\n"
            .formatted(
                order.number(),
                order.shipTo().city(),
                order.shipTo().country(),
                order.stage().name().toLowerCase(Locale.ROOT),
                body.getLast()));
    mail.send(notice);
    return "Mail sent to " + body.getFirst();
  }
}
