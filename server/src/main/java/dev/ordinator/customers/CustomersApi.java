package dev.ordinator.customers;

import dev.ordinator.access.Person;
import dev.ordinator.customers.Customers.Customer;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/customers")
@Tag(name = "Customers")
class CustomersApi {
  private final Customers customers;

  CustomersApi(Customers customers) {
    this.customers = customers;
  }

  @Operation(summary = "What is said of a customer; nothing, if nobody said anything")
  @GetMapping
  Customer of(@RequestParam String email) {
    return customers.of(email);
  }

  @Operation(summary = "Groups that customers are in")
  @GetMapping("/groups")
  List<String> groups() {
    return customers.groups();
  }

  @Operation(summary = "Say what group a customer is in, and whether anything else may be sent")
  @PutMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void set(@RequestBody Customer customer) {
    customers.set(customer, Person.current().displayName());
  }
}
