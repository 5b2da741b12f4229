package dev.ordinator.channels;

import dev.ordinator.platform.Problem;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** The connectors there are, and what each can do. */
@Component
public class Connectors {
  private final Map<ChannelKind, Connector> byKind;

  Connectors(List<Connector> connectors) {
    byKind = connectors.stream().collect(Collectors.toMap(Connector::kind, Function.identity()));
  }

  public Connector of(Channel channel) {
    return of(channel.kind())
        .orElseThrow(() -> Problem.conflict(channel.name() + " sends no messages"));
  }

  /** The connector of a kind; empty for kinds that are not spoken to. */
  public Optional<Connector> of(ChannelKind kind) {
    return Optional.ofNullable(byKind.get(kind));
  }

  /** The channel's connector, if it has an ability. */
  public <T> Optional<T> able(Channel channel, Class<T> ability) {
    return of(channel.kind()).filter(ability::isInstance).map(ability::cast);
  }
}
