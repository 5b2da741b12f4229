package dev.ordinator.buyers;

import dev.ordinator.backorders.Lacking;
import dev.ordinator.buyers.Questions.Letter;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.dispatch.Outbox.Kind;
import dev.ordinator.dispatch.Outbox.Message;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import java.time.LocalDate;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Writes to buyers whose orders wait. */
@Component
class BuyerMail implements Outbox.Delivery {
  private final Orders orders;
  private final Lacking lacking;
  private final AnswerLink link;
  private final JavaMailSender mail;
  private final OrdinatorSettings settings;
  private final JsonMapper json;

  BuyerMail(
      Orders orders,
      Lacking lacking,
      AnswerLink link,
      JavaMailSender mail,
      OrdinatorSettings settings,
      JsonMapper json) {
    this.orders = orders;
    this.lacking = lacking;
    this.link = link;
    this.mail = mail;
    this.settings = settings;
    this.json = json;
  }

  @Override
  public Kind kind() {
    return Kind.BUYER;
  }

  @Override
  public EventKind told() {
    return EventKind.TOLD_BUYER;
  }

  @Override
  public String deliver(Message message) {
    OrderHead order = orders.head(message.orderId());
    Letter letter = json.readValue(message.body(), Letter.class);
    SimpleMailMessage written = new SimpleMailMessage();
    written.setFrom(settings.mailFrom());
    written.setTo(order.email());
    written.setSubject("Your order %s takes longer".formatted(order.externalId()));
    written.setText(text(order, letter));
    mail.send(written);
    return "Mail sent to " + order.email();
  }

  private String text(OrderHead order, Letter letter) {
    StringBuilder text =
        new StringBuilder()
            .append("Dear ")
            .append(order.buyerName())
            .append(",\n\nsome of what you ordered is not here yet:\n\n")
            .append(missing(order.id()))
            .append("\n\n")
            .append(when(letter.until()));
    LocalDate end = letter.cancelledOn();
    if (end != null) {
      text.append("\nIf it has not come by ")
          .append(Texts.date(end))
          .append(", we will cancel what is missing.\n");
    }
    Long question = letter.questionId();
    if (question != null) {
      text.append("\nPlease tell us whether you will wait, or what else we can do:\n")
          .append(link.to(question))
          .append("\n");
    }
    return text.toString();
  }

  private static String when(@Nullable LocalDate until) {
    return until == null
        ? "We can’t say yet when it will come.\n"
        : "We expect it to be with you on " + Texts.date(until) + ".\n";
  }

  private String missing(long orderId) {
    Map<Long, Long> units = lacking.units(orderId, Set.of());
    return orders.lines(orderId).stream()
        .filter(line -> units.containsKey(line.id()))
        .map(line -> "  " + units.get(line.id()) + " × " + line.title())
        .collect(Collectors.joining("\n"));
  }
}
