package dev.ordinator.rates;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.io.IOException;
import java.io.StringReader;
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

  private final ExchangeRates rates;
  private final OrdinatorSettings settings;
  private final RestClient http;

  RateFetch(ExchangeRates rates, OrdinatorSettings settings) {
    this.rates = rates;
    this.settings = settings;
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
    } catch (RestClientException | Problem e) {
      LOG.warn("exchange rates could not be fetched: {}", Texts.of(e));
    }
  }

  /**
   * @return how many rates there were
   */
  public int fetch() {
    String file = http.get().uri(settings.ratesUrl()).retrieve().body(String.class);
    try {
      return rates.read(new StringReader(file == null ? "" : file), "published rates");
    } catch (IOException e) {
      throw Problem.elsewhere("the published rates can’t be read: " + Texts.of(e));
    }
  }
}
