package pantry.desktop;

import static com.tngtech.archunit.base.DescribedPredicate.not;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.assignableTo;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.simpleNameEndingWith;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import javafx.application.Platform;
import javafx.scene.Node;
import org.junit.jupiter.api.Test;
import pantry.desktop.session.FxThread;

/** What the desktop's packages may know of each other; docs/architecture.md tells why. */
class ArchitectureTest {
    private static final List<String> WORKPLACES = List.of("receive", "shelves", "prep", "scenes", "reach");

    private static final JavaClasses DESKTOP = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("pantry.desktop");

    private static String[] packages(List<String> names) {
        return names.stream().map(name -> "pantry.desktop." + name + "..").toArray(String[]::new);
    }

    @Test
    void workplacesDoNotKnowEachOther() {
        for (String workplace : WORKPLACES) {
            List<String> others = WORKPLACES.stream()
                    .filter(other -> !other.equals(workplace))
                    .toList();
            noClasses()
                    .that()
                    .resideInAPackage("pantry.desktop." + workplace + "..")
                    .should()
                    .dependOnClassesThat()
                    .resideInAnyPackage(packages(others))
                    .check(DESKTOP);
        }
    }

    @Test
    void onlyTheApplicationKnowsTheWorkplaces() {
        noClasses()
                .that(resideInAnyPackage("pantry.desktop..")
                        .and(not(
                                resideInAnyPackage(packages(WORKPLACES)).or(resideInAnyPackage("pantry.desktop.app")))))
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(packages(WORKPLACES))
                .check(DESKTOP);
    }

    @Test
    void noPackagesNeedEachOtherInACircle() {
        slices().matching("pantry.desktop.(*)..").should().beFreeOfCycles().check(DESKTOP);
    }

    @Test
    void viewModelsKnowNoNode() {
        noClasses()
                .that(simpleNameEndingWith("Model"))
                .should()
                .dependOnClassesThat(assignableTo(Node.class))
                .check(DESKTOP);
    }

    @Test
    void theSessionKnowsNoNode() {
        noClasses()
                .that()
                .resideInAPackage("pantry.desktop.session")
                .should()
                .dependOnClassesThat(assignableTo(Node.class))
                .check(DESKTOP);
    }

    @Test
    void oneClassGoesToTheInterfacesThread() {
        noClasses()
                .that(not(assignableTo(FxThread.class)))
                .should()
                .dependOnClassesThat(assignableTo(Platform.class))
                .check(DESKTOP);
    }
}
