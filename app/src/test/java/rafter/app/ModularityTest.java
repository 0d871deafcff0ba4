package rafter.app;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import org.springframework.modulith.core.ApplicationModules;

class ModularityTest {

    private static final Path DRAWING = Path.of("../docs/modules.svg");
    private static final JavaClasses APP = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("rafter.app");
    private static final DescribedPredicate<JavaClass> STAND_IN_ONE_OF_THEIR_PACKAGE = DescribedPredicate.describe(
            "stand in a class of their package alone",
            one -> one.getEnclosingClass()
                    .filter(around -> !around.getModifiers().contains(JavaModifier.PUBLIC))
                    .isPresent());

    @Test
    void features_use_each_other_only_through_what_they_publish_and_never_in_a_circle() {
        ApplicationModules modules = ApplicationModules.of(RafterApplication.class);
        assertThat(modules.stream().map(module -> module.getIdentifier().toString()))
                .contains(
                        "platform",
                        "house.access",
                        "promises.targets",
                        "tickets.acts",
                        "arrival.intake",
                        "work.worklist");
        modules.verify();
    }

    /** Written anew with {@code -Drafter.record=true}. */
    @Test
    void the_drawing_in_the_documents_is_that_of_the_code() throws IOException {
        String drawn = ModuleDrawing.draw(ApplicationModules.of(RafterApplication.class));
        if (Boolean.getBoolean("rafter.record")) {
            Files.writeString(DRAWING, drawn);
        }
        assertThat(Files.readString(DRAWING)).isEqualTo(drawn);
    }

    @Test
    void the_areas_stand_on_each_other_and_nothing_reaches_up() {
        layeredArchitecture()
                .consideringOnlyDependenciesInLayers()
                .layer("platform")
                .definedBy("rafter.app.platform..")
                .layer("house")
                .definedBy("rafter.app.house..")
                .layer("promises")
                .definedBy("rafter.app.promises..")
                .layer("tickets")
                .definedBy("rafter.app.tickets..")
                .layer("arrival")
                .definedBy("rafter.app.arrival..")
                .layer("handout")
                .definedBy("rafter.app.handout..")
                .layer("work")
                .definedBy("rafter.app.work..")
                .whereLayer("work")
                .mayNotBeAccessedByAnyLayer()
                .whereLayer("arrival")
                .mayNotBeAccessedByAnyLayer()
                .whereLayer("handout")
                .mayOnlyBeAccessedByLayers("work")
                .whereLayer("tickets")
                .mayOnlyBeAccessedByLayers("arrival", "handout", "work")
                .whereLayer("promises")
                .mayOnlyBeAccessedByLayers("tickets", "arrival", "handout", "work")
                .whereLayer("house")
                .mayOnlyBeAccessedByLayers("promises", "tickets", "arrival", "handout", "work")
                .check(APP);
    }

    @Test
    void the_stores_of_tickets_are_used_within_their_area_alone() {
        classes()
                .that()
                .resideInAPackage("rafter.app.tickets.acts")
                .and()
                .haveSimpleNameEndingWith("Store")
                .should()
                .onlyBeAccessed()
                .byAnyPackage("rafter.app.tickets..")
                .check(APP);
    }

    @Test
    void records_that_templates_may_read_are_public() {
        classes()
                .that()
                .areRecords()
                .and()
                .areNotPrivate()
                .and(STAND_IN_ONE_OF_THEIR_PACKAGE)
                .should()
                .bePublic()
                .because(
                        "what a template asks of others is not compiled; outside of the package they are hidden all the same")
                .check(APP);
    }

    @Test
    void nobody_takes_time_from_the_air() {
        noClasses()
                .should()
                .callMethod(Instant.class, "now")
                .orShould()
                .callMethod(LocalDate.class, "now")
                .orShould()
                .callMethod(System.class, "currentTimeMillis")
                .because("time comes from the one clock")
                .check(APP);
    }
}
