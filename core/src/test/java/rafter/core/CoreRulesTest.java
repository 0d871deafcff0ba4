package rafter.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZonedDateTime;

@AnalyzeClasses(packages = "rafter.core", importOptions = ImportOption.DoNotIncludeTests.class)
class CoreRulesTest {

    @ArchTest
    static final ArchRule KNOWS_NO_INTERFACE = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("org.springframework..", "org.jooq..", "java.sql..", "jakarta..", "org.jsoup..")
            .because("the rules of the job stand on their own");

    @ArchTest
    static final ArchRule HAS_NO_CLOCK_OF_ITS_OWN = noClasses()
            .should()
            .callMethod(Instant.class, "now")
            .orShould()
            .callMethod(LocalDate.class, "now")
            .orShould()
            .callMethod(ZonedDateTime.class, "now")
            .orShould()
            .callMethod(Clock.class, "systemUTC")
            .orShould()
            .callMethod(System.class, "currentTimeMillis")
            .because("time comes in as a parameter");
}
