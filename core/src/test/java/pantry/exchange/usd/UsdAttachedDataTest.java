package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.model.AttachedData;
import pantry.model.AttachedData.Kind;
import pantry.testing.Stages;

/** Property names and schemas are those of UsdPhysics and UsdMedia. */
class UsdAttachedDataTest {
    private static List<AttachedData> of(String prims) {
        return UsdAttachedData.of(Stages.of(prims));
    }

    @Test
    void physicsIsToldWithItsFigures() {
        List<AttachedData> found = of("""
                def Xform "Crate" ( prepend apiSchemas = ["PhysicsRigidBodyAPI", "PhysicsMassAPI"] ) {
                    float physics:mass = 20
                    bool physics:rigidBodyEnabled = 1
                }
                def Material "Rubber" ( prepend apiSchemas = ["PhysicsMaterialAPI"] ) {
                    float physics:dynamicFriction = 0.8
                }
                def PhysicsRevoluteJoint "Hinge" { float physics:upperLimit = 90 }
                """);
        assertThat(found).extracting(AttachedData::kind).containsOnly(Kind.PHYSICS);
        assertThat(found).extracting(AttachedData::object).containsExactly("Crate", "Rubber", "Hinge");
        assertThat(found.getFirst().name()).isEqualTo("rigid body, mass");
        assertThat(found.getFirst().text()).contains("mass 20");
        assertThat(found.get(1).text()).isEqualTo("dynamicFriction 0.8");
        assertThat(found.getLast().name()).isEqualTo("revolute joint");
        assertThat(found.getLast().text()).isEqualTo("upperLimit 90");
    }

    @Test
    void scriptsSoundsAndDataAreTextOfTheirKinds() {
        List<AttachedData> found = of("""
                def Xform "Door" (
                    displayName = "Hut door"
                    customData = { string maker = "Skua Point workshop" dictionary rig = { int bones = 3 } }
                ) {
                    custom string onOpenScript = "beep()\\nturn(90)"
                    custom float userProperties:hours = 12.5
                    float plain = 1
                    def SpatialAudio "Creak" { uniform asset filePath = @./creak.wav@ }
                    def Shader "Image" ( customData = { int magFilter = 9729 } ) {}
                }
                """);
        assertThat(found)
                .extracting(AttachedData::kind, AttachedData::name)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple(Kind.SCRIPT, "onOpenScript"),
                        org.assertj.core.groups.Tuple.tuple(Kind.SOUND, "sound"),
                        org.assertj.core.groups.Tuple.tuple(Kind.DATA, "hours"),
                        org.assertj.core.groups.Tuple.tuple(Kind.DATA, "maker"),
                        org.assertj.core.groups.Tuple.tuple(Kind.DATA, "rig"));
        assertThat(found.getFirst().object()).isEqualTo("Hut door");
        assertThat(found.getFirst().text()).isEqualTo("beep()\nturn(90)");
        assertThat(found.get(1).text()).contains("creak.wav");
        assertThat(found.get(2).text()).isEqualTo("12.5");
        assertThat(found.getLast().text()).contains("bones");
    }

    @Test
    void whatIsVeryLongIsCut() {
        StringBuilder prims = new StringBuilder("def Xform \"A\" {\n");
        for (int i = 0; i < 2000; i++) {
            prims.append("custom string data")
                    .append(i)
                    .append(" = \"")
                    .append("x".repeat(1000))
                    .append("\"\n");
        }
        List<AttachedData> found = of(prims.append("}").toString());
        assertThat(found).hasSizeLessThanOrEqualTo(500);
        assertThat(found.getFirst().text()).hasSizeLessThan(500).endsWith("…");
    }
}
