package pantry.usd.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static pantry.testing.Stages.prim;

import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.testing.Stages;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.compose.Stage;

/** Primvars, collections and material bindings: what holds for a prim by what is said above it. */
class InheritedSchemasTest {
    private static final Stage PAINTED = Stages.of("""
            def Xform "A" {
                color3f[] primvars:displayColor = [(1, 0, 0)] (interpolation = "constant")
                float[] primvars:wear = [0.5]
                texCoord2f[] primvars:st = [(0, 0), (1, 1)] (interpolation = "vertex")
                def Mesh "B" {
                    float[] primvars:wear = [0.1, 0.2, 0.3] (interpolation = "vertex")
                    int[] primvars:wear:indices = [2, 0, 0, 1]
                    def Mesh "C" {}
                }
                def Mesh "D" { float[] primvars:wear = None }
                def Mesh "E" { float[] primvars:wear = [1] (interpolation = "vertex") int[] primvars:wear:indices = [4] }
            }
            """);

    @Test
    void constantPrimvarsHoldForAllBelow() {
        Primvar colour = Primvar.find(prim(PAINTED, "/A/B/C"), "displayColor").orElseThrow();
        assertThat(colour.floats(3))
                .hasValueSatisfying(values -> assertThat(values).containsExactly(1, 0, 0));
        assertThat(colour.prim().path()).hasToString("/A");
    }

    @Test
    void othersHoldForTheirPrimAlone() {
        assertThat(Primvar.find(prim(PAINTED, "/A/B"), "st")).isEmpty();
        assertThat(Primvar.find(prim(PAINTED, "/A"), "st")).isPresent();
        assertThat(Primvar.find(prim(PAINTED, "/A/B/C"), "wear")
                        .orElseThrow()
                        .prim()
                        .path())
                .as("past the varying one of the parent, to the constant one above")
                .hasToString("/A");
    }

    @Test
    void indicesAreResolved() {
        assertThat(Primvar.find(prim(PAINTED, "/A/B"), "wear").orElseThrow().floats(1))
                .hasValueSatisfying(values -> assertThat(values).containsExactly(0.3f, 0.1f, 0.1f, 0.2f));
        Primvar broken = Primvar.find(prim(PAINTED, "/A/E"), "wear").orElseThrow();
        assertThatThrownBy(() -> broken.floats(1))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("</A/E.primvars:wear> uses element 4 of 1");
    }

    @Test
    void aBlockedPrimvarIsNotInherited() {
        assertThat(Primvar.find(prim(PAINTED, "/A/D"), "wear")).isEmpty();
        assertThat(Primvar.all(prim(PAINTED, "/A/D"))).containsOnlyKeys("displayColor");
    }

    private static final Stage COLLECTED = Stages.of("""
            def Xform "A" (apiSchemas = ["CollectionAPI:lit", "CollectionAPI:few", "CollectionAPI:both", "CollectionAPI:all"]) {
                rel collection:lit:includes = [</A/B>, </A/F>]
                rel collection:lit:excludes = </A/B/C>
                uniform token collection:few:expansionRule = "explicitOnly"
                rel collection:few:includes = [</A/B>, </A/D.size>]
                uniform token collection:both:expansionRule = "expandPrimsAndProperties"
                rel collection:both:includes = [</A.collection:lit>, </A.collection:few>, </A.collection:both>, </A/E>]
                rel collection:both:excludes = </A/F/G>
                uniform bool collection:all:includeRoot = true
                rel collection:all:excludes = </A/F>
                def "B" { def "C" { def "Deep" {} } def "C2" {} }
                def "D" {} def "E" {} def "F" { def "G" {} }
            }
            """);

    private static boolean belongs(String collection, String path) {
        return Membership.of(COLLECTED, prim(COLLECTED, "/A"), collection).includes(SdfPath.of(path));
    }

    @Test
    void theNearestIncludedOrExcludedAncestorDecides() {
        assertThat(belongs("lit", "/A/B/C2")).isTrue();
        assertThat(belongs("lit", "/A/B/C/Deep")).isFalse();
        assertThat(belongs("lit", "/A/D")).isFalse();
        assertThat(belongs("lit", "/A/B.size"))
                .as("properties are not expanded to")
                .isFalse();
        assertThat(belongs("all", "/A/E")).isTrue();
        assertThat(belongs("all", "/A/F/G")).isFalse();
    }

    @Test
    void anExplicitCollectionHoldsWhatItNamesAlone() {
        assertThat(belongs("few", "/A/B")).isTrue();
        assertThat(belongs("few", "/A/B/C2")).isFalse();
        assertThat(belongs("few", "/A/D.size")).isTrue();
    }

    @Test
    void collectionsOfCollectionsKeepTheirRulesAndNeverTurnInCircles() {
        assertThat(belongs("both", "/A/F")).isTrue();
        assertThat(belongs("both", "/A/F/G")).as("excluded by the outer one").isFalse();
        assertThat(belongs("both", "/A/E.size")).isTrue();
        assertThat(belongs("both", "/A/D.size")).isTrue();
        assertThat(Membership.names(prim(COLLECTED, "/A"))).containsExactly("all", "both", "few", "lit");
    }

    private static final Stage BOUND = Stages.of("""
            def Xform "A" (apiSchemas = ["MaterialBindingAPI", "CollectionAPI:parts"]) {
                rel material:binding = </M/Red>
                rel collection:parts:includes = [</A/B/C>, </A/S/T>]
                rel material:binding:collection:parts = [</A.collection:parts>, </M/Blue>]
                rel material:binding:preview = </M/Flat>
                def Xform "B" { def Mesh "C" {} def Mesh "D" { rel material:binding = </M/Green> } }
                def Xform "S" {
                    rel material:binding = </M/Gold> (bindMaterialAs = "strongerThanDescendants")
                    def Mesh "T" { rel material:binding = </M/Green> }
                }
                def Mesh "C2" { rel material:binding:collection:preview:parts = [</A.collection:parts>, </M/Blue>] }
            }
            def Scope "M" { def Material "Red" {} def Material "Blue" {} def Material "Green" {} def Material "Gold" {} }
            """);

    private static String bound(String path, String purpose) {
        return new MaterialBindings(BOUND)
                .of(prim(BOUND, path), purpose, Optional.empty())
                .orElseThrow()
                .material()
                .name();
    }

    @Test
    void theNearestBindingHolds() {
        assertThat(bound("/A/B", "")).isEqualTo("Red");
        assertThat(bound("/A/B/D", "")).isEqualTo("Green");
    }

    @Test
    void aCollectionsBindingWinsOverTheDirectOneOfTheSamePrim() {
        assertThat(bound("/A/B/C", "")).isEqualTo("Blue");
    }

    @Test
    void aStrongerBindingAboveWins() {
        assertThat(bound("/A/S/T", "")).isEqualTo("Gold");
    }

    @Test
    void aBindingForThePurposeWinsAndOthersFallBack() {
        assertThat(bound("/A/B/D", "preview")).isEqualTo("Flat");
        assertThat(bound("/A/B/D", "full")).isEqualTo("Green");
    }

    @Test
    void withinAnInstanceWhatHoldsAroundItCounts() {
        var outer = new MaterialBindings.Binding(SdfPath.of("/M/Red"), SdfPath.of("/A"), false);
        var strong = new MaterialBindings.Binding(SdfPath.of("/M/Red"), SdfPath.of("/A"), true);
        Stage plain = Stages.of("def Mesh \"P\" {} def Mesh \"Q\" { rel material:binding = </M/Green> }");
        MaterialBindings bindings = new MaterialBindings(plain);
        assertThat(bindings.of(prim(plain, "/P"), "", Optional.of(outer))).contains(outer);
        assertThat(bindings.of(prim(plain, "/Q"), "", Optional.of(outer))
                        .orElseThrow()
                        .material())
                .hasToString("/M/Green");
        assertThat(bindings.of(prim(plain, "/Q"), "", Optional.of(strong))).contains(strong);
    }

    @Test
    void visibilityAndPurposeAreInherited() {
        Stage stage = Stages.of("""
                def Xform "A" { uniform token purpose = "proxy" token visibility = "invisible"
                    def "B" { token visibility = "inherited" def "C" { uniform token purpose = "render" } } }
                """);
        assertThat(Imageable.of(prim(stage, "/A/B"))).isEqualTo(new Imageable(false, "proxy"));
        assertThat(Imageable.of(prim(stage, "/A/B/C"))).isEqualTo(new Imageable(false, "render"));
    }
}
