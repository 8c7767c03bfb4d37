package pantry;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.dependencies.SliceAssignment;
import com.tngtech.archunit.library.dependencies.SliceIdentifier;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
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
            "project",
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

    /**
     * Classes that need each other, and why. All others of a package form no circle.
     */
    private static final List<Set<String>> BELONG_TOGETHER = List.of(
            // A sealed hierarchy names its members, which are trees of one another.
            Set.of("AttributeSpec", "Layer", "PrimSpec", "PropertySpec", "RelationshipSpec", "Spec", "VariantSpec"),
            // To compose a prim, those that its arcs lead to are composed.
            Set.of("Attribute", "Dependencies", "IndexBuilder", "Prim", "PrimIndex", "Stage"),
            // A rule is asked within its limits, and what it finds names it.
            Set.of("Finding", "Findings", "Limits", "Rule"),
            // A value may be a reference, whose custom data are values.
            Set.of("Reference", "Value"),
            // A package is a layer's file, and holds layers.
            Set.of("LayerFiles", "UsdPackager"),
            // Slots of materials hold textures, which say for which slot they are; what a material is made of shows
            // images.
            Set.of("Material", "ShaderNetwork", "Texture"),
            // A field is computed for places, which keep what fields came to.
            Set.of("Batch", "Field"),
            // The measures of a model are asked of it, and worked out apart.
            Set.of("Model", "ModelMeasures"),
            // Options and result of one use case.
            Set.of("EditCopies", "WorkingCopy"));

    @Test
    void classesOfAPackageFormNoCircleButWhereTheyBelongTogether() {
        slices().assignedFrom(new SliceAssignment() {
                    @Override
                    public SliceIdentifier getIdentifierOf(JavaClass type) {
                        String outermost = outermost(type);
                        return SliceIdentifier.of(BELONG_TOGETHER.stream()
                                .filter(group -> group.contains(outermost))
                                .findFirst()
                                .map(group -> type.getPackageName() + " " + new TreeSet<>(group))
                                .orElse(type.getPackageName() + " " + outermost));
                    }

                    @Override
                    public String getDescription() {
                        return "outermost classes";
                    }
                })
                .should()
                .beFreeOfCycles()
                .check(CORE);
    }

    private static String outermost(JavaClass type) {
        return type.getEnclosingClass().map(ArchitectureTest::outermost).orElse(type.getSimpleName());
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
