package dev.ordinator.dispatch;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import java.net.http.HttpClient;
import java.time.Duration;
import java.util.Base64;
import java.util.List;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.client.RestClient;
import org.springframework.web.client.RestClientException;
import org.springframework.web.client.RestClientResponseException;

/** Speaks to the carrier gateway over HTTP. */
@Component
class HttpCarrier implements Carrier {
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

  private record Scans(List<Scan> scans) {}

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
  public List<Scan> scans(String tracking) {
    try {
      Scans answer =
          http.get().uri("/api/tracking/{tracking}", tracking).retrieve().body(Scans.class);
      return answer == null ? List.of() : answer.scans();
    } catch (RestClientException e) {
      throw new Unavailable("the carrier did not say where " + tracking + " is: " + reason(e), e);
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
