package dev.ordinator;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.time.Clock;
import org.springframework.web.bind.annotation.RestController;

/** The plan of the house, as docs/architecture.md tells it. */
@AnalyzeClasses(packages = "dev.ordinator", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  private static final String CORE = "dev.ordinator.core..";

  @ArchTest
  static final ArchRule coreKnowsOnlyTheLanguage =
      classes()
          .that()
          .resideInAPackage(CORE)
          .should()
          .onlyDependOnClassesThat()
          .resideInAnyPackage(
              CORE,
              "java.lang..",
              "java.util..",
              "java.time..",
              "java.math..",
              "org.jspecify..",
              "dev.cel..");

  @ArchTest
  static final ArchRule onlyRulesKnowExpressions =
      noClasses()
          .that()
          .resideInAPackage(CORE)
          .and()
          .resideOutsideOfPackage("dev.ordinator.core.rules")
          .should()
          .dependOnClassesThat()
          .resideInAPackage("dev.cel..");

  @ArchTest
  static final ArchRule coreHasNoClock =
      noClasses()
          .that()
          .resideInAPackage(CORE)
          .should()
          .dependOnClassesThat()
          .areAssignableTo(Clock.class);

  @ArchTest
  static final ArchRule coreSubjectsBuildOnEachOtherInOneDirection =
      slices().matching("dev.ordinator.core.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule featuresBuildOnEachOtherInOneDirection =
      slices().matching("dev.ordinator.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule theOutsideWorldIsReachedOverTheWireOnly =
      noClasses()
          .that()
          .resideOutsideOfPackage("dev.ordinator.standins..")
          .should()
          .dependOnClassesThat()
          .resideInAPackage("dev.ordinator.standins..");

  @ArchTest
  static final ArchRule standInsKnowNothingOfUs =
      noClasses()
          .that()
          .resideInAPackage("dev.ordinator.standins..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(CORE, "dev.ordinator.platform..", "dev.ordinator.schema..");

  @ArchTest
  static final ArchRule whatSpeaksHttpAndWhatKeepsRowsStaysInItsFeature =
      noClasses()
          .that()
          .areAnnotatedWith(RestController.class)
          .or()
          .haveSimpleNameEndingWith("Store")
          .should()
          .bePublic();
}
