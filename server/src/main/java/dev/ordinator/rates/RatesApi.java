package dev.ordinator.rates;

import dev.ordinator.access.Person;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.rates.ExchangeRates.DayRate;
import dev.ordinator.sheets.SentFile;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/rates")
@Tag(name = "Exchange rates")
class RatesApi {
  private static final int MOST = 90;

  private final ExchangeRates rates;

  RatesApi(ExchangeRates rates) {
    this.rates = rates;
  }

  record Read(int rates) {}

  /**
   * @param rate base currency for one unit
   * @param sure whether it is right though it is far from the last one
   */
  record Said(@Nullable BigDecimal rate, boolean sure) {}

  @Operation(summary = "The latest rate of each currency")
  @GetMapping
  List<DayRate> latest() {
    return rates.latest();
  }

  @Operation(summary = "Rates of a currency, the latest first")
  @GetMapping("/{currency}")
  List<DayRate> of(@PathVariable String currency) {
    return rates.history(currency, MOST);
  }

  @Operation(
      summary = "Read rates from a file (currency, day, rate); orders that waited for them go on",
      description =
          "All of it is taken, or nothing. Those far from the last ones are refused as a ‘leap’"
              + " until somebody says that they are right.")
  @PostMapping(consumes = {"application/octet-stream", "text/csv"})
  Read read(@RequestParam(defaultValue = "false") boolean sure, HttpServletRequest request)
      throws IOException {
    String who = who();
    List<DayRate> read = SentFile.with(request.getInputStream(), f -> RateFile.read(f, who));
    return new Read(rates.keep(read, sure, who));
  }

  @Operation(summary = "Say or correct a rate of a day; orders keep theirs")
  @PutMapping("/{currency}/{day}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void say(@PathVariable String currency, @PathVariable LocalDate day, @RequestBody Said said) {
    BigDecimal rate = said.rate();
    if (rate == null) {
      throw Problem.invalid("rate", "say what one of it is worth");
    }
    try {
      String known = RateFile.currency(currency);
      rates.keep(List.of(new DayRate(known, day, rate, who())), said.sure(), who());
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("currency", Texts.of(e));
    }
  }

  @Operation(summary = "Take a rate back; orders keep theirs")
  @DeleteMapping("/{currency}/{day}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void delete(@PathVariable String currency, @PathVariable LocalDate day) {
    rates.delete(currency, day, who());
  }

  private static String who() {
    return Person.current().displayName();
  }
}
