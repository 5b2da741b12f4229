package dev.ordinator.dispatch;

import static java.util.Objects.requireNonNull;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import java.net.http.HttpClient;
import java.time.Duration;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.client.HttpClientErrorException;
import org.springframework.web.client.HttpServerErrorException;
import org.springframework.web.client.ResourceAccessException;
import org.springframework.web.client.RestClient;
import org.springframework.web.client.RestClientException;
import org.springframework.web.client.RestClientResponseException;

/** Speaks to the carrier gateway over HTTP. */
@Component
class HttpCarrier implements Carrier {
  /** A time-out and too many requests: client errors (RFC 9110) that pass. */
  private static final Set<Integer> PASSING = Set.of(408, 429);

  private final RestClient http;

  HttpCarrier(OrdinatorSettings settings) {
    JdkClientHttpRequestFactory requests =
        new JdkClientHttpRequestFactory(
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(3)).build());
    requests.setReadTimeout(Duration.ofSeconds(8));
    this.http =
        RestClient.builder()
            .requestFactory(requests)
            .baseUrl(settings.carrierUrl().toString())
            .defaultHeader("X-Api-Key", settings.carrierKey())
            .build();
  }

  private record LabelAnswer(String tracking, String pdf) {}

  private record Scans(List<Scan> scans) {
    /**
     * @throws NullPointerException if the list or a part of a scan is missing
     */
    List<Scan> checked() {
      scans.forEach(scan -> {
        requireNonNull(scan.code());
        requireNonNull(scan.place());
        requireNonNull(scan.at());
      });
      return scans;
    }
  }

  @Override
  public Label label(Shipment shipment) {
    try {
      LabelAnswer answer =
          http.post()
              .uri("/api/labels")
              .header("Idempotency-Key", shipment.onceKey())
              .body(shipment)
              .retrieve()
              .body(LabelAnswer.class);
      if (answer == null) {
        throw new Unavailable("the carrier’s answer was empty", new NullPointerException());
      }
      return new Label(answer.tracking(), Base64.getDecoder().decode(answer.pdf()));
    } catch (RestClientException | IllegalArgumentException e) {
      throw new Unavailable("the carrier gave no label: " + reason(e), e);
    }
  }

  @Override
  public void voidLabel(String tracking) {
    try {
      http.post().uri("/api/labels/{tracking}/void", tracking).retrieve().toBodilessEntity();
    } catch (HttpClientErrorException e) {
      if (PASSING.contains(e.getStatusCode().value())) {
        throw new Unavailable("the carrier did not take label " + tracking + " back", e);
      }
      throw new Unusable(
          "the carrier does not take label %s back: %s".formatted(tracking, reason(e)), e);
    } catch (RestClientException e) {
      throw new Unavailable(
          "the carrier did not take label %s back: %s".formatted(tracking, reason(e)), e);
    }
  }

  @Override
  public List<Scan> scans(String tracking) {
    try {
      Scans answer =
          http.get().uri("/api/tracking/{tracking}", tracking).retrieve().body(Scans.class);
      return answer == null ? List.of() : answer.checked();
    } catch (HttpClientErrorException e) {
      if (PASSING.contains(e.getStatusCode().value())) {
        throw new Unavailable("the carrier did not say where " + tracking + " is", e);
      }
      throw new Unusable("the carrier knows nothing of " + tracking + ": " + reason(e), e);
    } catch (ResourceAccessException | HttpServerErrorException e) {
      throw new Unavailable("the carrier did not say where " + tracking + " is: " + reason(e), e);
    } catch (RestClientException | NullPointerException e) {
      throw new Unusable("what the carrier said of " + tracking + " can’t be read", e);
    }
  }

  private static String reason(RuntimeException e) {
    if (e instanceof RestClientResponseException answered) {
      return answered.getStatusCode()
          + " "
          + Texts.cut(answered.getResponseBodyAsString().replaceAll("\\s+", " "), 200);
    }
    return Texts.cut(Texts.of(e), 200);
  }
}
