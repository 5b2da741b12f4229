package dev.ordinator.rates;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.WorkHealth;
import dev.ordinator.sheets.SentFile;
import java.io.ByteArrayInputStream;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.web.client.RestClient;
import org.springframework.web.client.RestClientException;

/** Fetches the published rates, if it is said where they are. */
@Configuration
public class RateFetch {
  private static final Logger LOG = LoggerFactory.getLogger(RateFetch.class);
  private static final Duration OFTEN = Duration.ofHours(1);
  private static final String WORK = "Published exchange rates";

  private final ExchangeRates rates;
  private final OrdinatorSettings settings;
  private final WorkHealth health;
  private final RestClient http;

  RateFetch(ExchangeRates rates, OrdinatorSettings settings, WorkHealth health) {
    this.rates = rates;
    this.settings = settings;
    this.health = health;
    JdkClientHttpRequestFactory requests = new JdkClientHttpRequestFactory();
    requests.setReadTimeout(Duration.ofSeconds(10));
    this.http = RestClient.builder().requestFactory(requests).build();
  }

  @Bean
  RecurringTask<Void> fetchRates() {
    return Tasks.recurring("fetch-rates", Schedules.fixedDelay(OFTEN))
        .execute((instance, context) -> {
          if (!settings.ratesUrl().isEmpty()) {
            fetchOrSay();
          }
        });
  }

  private void fetchOrSay() {
    try {
      fetch();
      health.succeeded(WORK);
    } catch (RestClientException | Problem e) {
      health.failed(WORK, e);
      LOG.warn("exchange rates could not be fetched: {}", Texts.of(e));
    }
  }

  /**
   * @return how many rates there were
   * @throws Problem if they can't be read, or not be believed; then none is kept
   */
  public int fetch() {
    byte[] file = http.get().uri(settings.ratesUrl()).retrieve().body(byte[].class);
    return SentFile.with(
        new ByteArrayInputStream(file == null ? new byte[0] : file),
        content -> rates.keepPublished(RateFile.read(content, ExchangeRates.PUBLISHED)));
  }
}
