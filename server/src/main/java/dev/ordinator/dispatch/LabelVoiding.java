package dev.ordinator.dispatch;

import dev.ordinator.dispatch.Outbox.Kind;
import dev.ordinator.dispatch.Outbox.Message;
import dev.ordinator.dispatch.Outbox.Undelivered;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Texts;
import org.springframework.stereotype.Component;

/** Gives the label of a parcel back that is not sent: its carrier neither waits nor charges. */
@Component
class LabelVoiding implements Outbox.Delivery {
  private final Carrier carrier;

  LabelVoiding(Carrier carrier) {
    this.carrier = carrier;
  }

  @Override
  public Kind kind() {
    return Kind.VOID_LABEL;
  }

  @Override
  public EventKind told() {
    return EventKind.NOTE;
  }

  /** The message's body is the label's tracking number. */
  @Override
  public String deliver(Message message) {
    try {
      carrier.voidLabel(message.body());
    } catch (Carrier.Unavailable e) {
      throw Undelivered.forNow(Texts.of(e), null);
    } catch (Carrier.Unusable e) {
      throw Undelivered.forGood(Texts.of(e));
    }
    return "Label " + message.body() + " is void";
  }
}
