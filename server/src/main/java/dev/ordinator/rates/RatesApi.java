package dev.ordinator.rates;

import dev.ordinator.access.Person;
import dev.ordinator.rates.ExchangeRates.DayRate;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.io.IOException;
import java.io.StringReader;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/rates")
@Tag(name = "Exchange rates")
class RatesApi {
  private final ExchangeRates rates;

  RatesApi(ExchangeRates rates) {
    this.rates = rates;
  }

  record Read(int rates) {}

  @Operation(summary = "The latest rate of each currency")
  @GetMapping
  List<DayRate> latest() {
    return rates.latest();
  }

  @Operation(
      summary =
          "Read rates from a CSV file (currency, day, rate); orders that waited for them go on")
  @PostMapping(consumes = "text/csv")
  Read read(@RequestBody String file) throws IOException {
    return new Read(rates.read(new StringReader(file), Person.current().displayName()));
  }
}
