package pantry;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** The order of the packages, lowest first: each may use those before it, none those after it. */
class ArchitectureTest {
    private static final List<String> LOWEST_FIRST = List.of(
            "base",
            "mesh",
            "usd",
            "model",
            "exchange",
            "render",
            "compare",
            "twins",
            "library",
            "catalogue",
            "intake",
            "workpiece",
            "prep",
            "settle",
            "scene",
            "workbench",
            "usecase");

    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("pantry");

    @Test
    void noPackageUsesOneAboveIt() {
        for (int i = 0; i < LOWEST_FIRST.size(); i++) {
            List<String> above = new ArrayList<>();
            LOWEST_FIRST.subList(i + 1, LOWEST_FIRST.size()).forEach(name -> above.add("pantry." + name + ".."));
            if (!above.isEmpty()) {
                noClasses()
                        .that()
                        .resideInAPackage("pantry." + LOWEST_FIRST.get(i) + "..")
                        .should()
                        .dependOnClassesThat()
                        .resideInAnyPackage(above.toArray(String[]::new))
                        .allowEmptyShould(true)
                        .check(CORE);
            }
        }
    }

    @Test
    void noPackagesNeedEachOtherInACircle() {
        slices().matching("pantry.(**)").should().beFreeOfCycles().check(CORE);
    }

    @Test
    void usdStandsOnBaseAlone() {
        noClasses()
                .that()
                .resideInAPackage("pantry.usd..")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("pantry.mesh..")
                .check(CORE);
    }

    @Test
    void theCoreKnowsNoInterface() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("javafx..", "java.awt.event..", "javax.swing..", "pantry.desktop..", "pantry.cli..")
                .check(CORE);
    }
}
