package dev.ordinator.access;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Session")
class SessionApi {
  private final Users users;
  private final OrdinatorSettings settings;

  SessionApi(Users users, OrdinatorSettings settings) {
    this.users = users;
    this.settings = settings;
  }

  /**
   * @param baseCurrency ISO 4217; costs are compared in it
   */
  record Me(String username, String displayName, Role role, String baseCurrency) {}

  /**
   * @param needed true until the first manager exists
   */
  record Setup(boolean needed) {}

  record FirstManager(String username, String displayName, String password) {}

  @Operation(summary = "Who is logged in")
  @GetMapping("/api/session")
  Me me() {
    Person person = Person.current();
    return new Me(person.username(), person.displayName(), person.role(), settings.baseCurrency());
  }

  @Operation(summary = "Whether the first manager is still to be created")
  @GetMapping("/api/setup")
  Setup setup() {
    return new Setup(users.none());
  }

  @Operation(summary = "Create the first manager; refused once anybody can log in")
  @PostMapping("/api/setup")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void createFirst(@RequestBody FirstManager first) {
    if (!users.none()) {
      throw Problem.conflict("there is a manager already");
    }
    users.add(first.username(), first.displayName(), first.password(), Role.MANAGER, null);
  }
}
