package pantry.desktop;

import static com.tngtech.archunit.base.DescribedPredicate.describe;
import static com.tngtech.archunit.base.DescribedPredicate.not;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.assignableTo;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.simpleNameEndingWith;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.dependencies.SliceAssignment;
import com.tngtech.archunit.library.dependencies.SliceIdentifier;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
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

    /** Pairs of classes that know each other, and why; two of another pair, or three, are a circle. */
    private static final List<Set<String>> BELONG_TOGETHER = List.of(
            // A working copy that is open says of what it is one, and waits there while another is looked at.
            Set.of("InspectionItem", "Opened"));

    @Test
    void classesOfAPackageFormNoCircleButWhereTheyBelongTogether() {
        slices().assignedFrom(new SliceAssignment() {
                    @Override
                    public SliceIdentifier getIdentifierOf(JavaClass type) {
                        String outermost = outermost(type);
                        String group = BELONG_TOGETHER.stream()
                                .filter(each -> each.contains(outermost))
                                .findFirst()
                                .map(each -> new TreeSet<>(each).toString())
                                .orElse(outermost);
                        return SliceIdentifier.of(type.getPackageName() + " " + group);
                    }

                    @Override
                    public String getDescription() {
                        return "outermost classes";
                    }
                })
                .should()
                .beFreeOfCycles()
                .check(DESKTOP);
    }

    private static String outermost(JavaClass type) {
        return type.getEnclosingClass().map(ArchitectureTest::outermost).orElse(type.getSimpleName());
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

    /** What models hand out, and what works on them without a window. */
    private static final Set<String> OF_MODELS = Set.of(
            "ArrivalShelving",
            "ChosenFindings",
            "InspectionList",
            "Keeping",
            "LayoutSpace",
            "ObjectSearch",
            "SceneDisplay",
            "SceneDrawers",
            "SceneExports",
            "SceneSelection",
            "SelectionEdits",
            "Several",
            "SlipChoices");

    private static boolean isOfModel(JavaClass type) {
        return OF_MODELS.contains(type.getSimpleName());
    }

    @Test
    void viewModelsKnowNoNode() {
        assertThat(DESKTOP.stream().map(JavaClass::getSimpleName)).containsAll(OF_MODELS);
        noClasses()
                .that(simpleNameEndingWith("Model").or(describe("are parts of a model", ArchitectureTest::isOfModel)))
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
