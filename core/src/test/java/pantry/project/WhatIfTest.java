package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.intake.Intake;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** What is foretold of a version comes about when it is really made ready. */
class WhatIfTest extends WithProject {
    /** The mast's next version has another body, of another name. */
    private String publishRenamed() {
        Model model = new Model(
                "Mast",
                List.of(Model.Node.of(
                        "Trunk",
                        pantry.base.math.Matrix4.IDENTITY,
                        List.of(new Model.Part(Shapes.cylinder(0.5, 20, 12), Workshop.RED)),
                        List.of())),
                Model.Extras.NONE);
        return workshop.intake()
                .publish(
                        model,
                        Workshop.slip("Mast", "Masts"),
                        new Intake.Next(current(mast), VersionStatus.DRAFT, ""),
                        library,
                        Progress.NONE)
                .version();
    }

    private static Stage stage(Path file) {
        return Stage.open(LayerFiles.read(file), new LayerCache());
    }

    private static Model model(Path file) {
        return UsdModelReader.read(stage(file), new MeshCache()).model();
    }

    /** A scene in which a part of the mast is overridden, and another one's placement is left as it is. */
    private Path overriding() throws IOException {
        Path file = project.resolve("overriding.usda");
        scene(file, scene -> {
            place(scene, mast, Optional.empty());
            place(scene, mast, Optional.empty());
        });
        Prim placed = stage(file).prim(SdfPath.of("/overriding/Mast")).orElseThrow();
        String part = placed.prototype().orElse(placed).children().stream()
                .filter(child -> !child.name().equals("Materials"))
                .findFirst()
                .orElseThrow()
                .name();
        String text = Files.readString(file);
        int first = text.indexOf("instanceable = true");
        int body = text.indexOf('{', first) + 1;
        Files.writeString(
                file,
                text.substring(0, first)
                        + "instanceable = false"
                        + text.substring(first + "instanceable = true".length(), body)
                        + "\n        over \"" + part
                        + "\" (\n            active = true\n        )\n        {\n        }\n"
                        + text.substring(body));
        return file;
    }

    @Test
    void whatIsForetoldComesAbout() throws IOException {
        Path file = overriding();
        String version = publishRenamed();
        String before = Files.readString(file);
        WhatIf.Ripple ripple = WhatIf.ready(reach(), current(mast), version, Progress.NONE);
        assertThat(ripple.effects()).extracting(WhatIf.Effect::file).containsExactly(file, yard);
        assertThat(ripple.placements()).isEqualTo(5);
        assertThat(ripple.lost()).isEqualTo(1);
        WhatIf.Effect effect = ripple.effects().getFirst();
        assertThat(effect.lost()).singleElement().satisfies(lost -> {
            assertThat(lost.kind()).isEqualTo(WhatIf.LostKind.OVERRIDE);
            assertThat(lost.path().toString()).startsWith("/overriding/Mast/");
        });
        assertThat(Files.readString(file)).as("nothing is written").isEqualTo(before);
        assertThat(effect.before()).isEqualTo(Weight.of(model(file)));

        library.setStatus(current(mast), version, VersionStatus.READY);
        Model after = model(file);
        assertThat(effect.after()).isEqualTo(Weight.of(after));
        assertThat(effect.boundsAfter()).isEqualTo(after.bounds()).isNotEqualTo(effect.boundsBefore());
        assertThat(stage(file).prim(effect.lost().getFirst().path()).filter(Prim::isDefined))
                .as("the override has no target any more")
                .isEmpty();
        assertThat(model(yard).trianglesDrawn())
                .isEqualTo(ripple.effects().getLast().after().trianglesDrawn());
    }

    @Test
    void whoIsPinnedIsNotReachedAndAVersionThatIsReadyChangesNothing() {
        assertThat(WhatIf.ready(reach(), current(mast), "v001", Progress.NONE).effects())
                .extracting(WhatIf.Effect::file)
                .containsExactly(yard);
        assertThat(WhatIf.ready(reach(), current(mast), "v003", Progress.NONE).effects())
                .isEmpty();
        assertThatThrownBy(() -> WhatIf.ready(reach(), current(mast), "v009", Progress.NONE))
                .hasMessageContaining("has no version v009");
    }

    @Test
    void creditsSayWhoMustBeNamedAndWhatIsMissing() {
        Asset post = workshop.block("Post", "Masts", 2);
        scene(yard, scene -> place(scene, post, Optional.empty()));
        library.edit(
                List.of(current(mast)),
                card -> card.withLicence("CC-BY-NC-4.0").withCredit("Ridge workshop"),
                Progress.NONE);
        library.edit(List.of(post), card -> card.withLicence(""), Progress.NONE);
        List<Credits.Line> lines = Credits.of(reach(), List.of());
        assertThat(lines).extracting(line -> line.asset().card().name()).containsExactly("Frame", "Mast", "Post");
        assertThat(lines).extracting(Credits.Line::mustBeNamed).containsExactly(false, true, false);
        assertThat(lines).extracting(Credits.Line::nonCommercial).containsExactly(false, true, false);
        assertThat(lines)
                .extracting(Credits.Line::isLacking)
                .as("the frame was shelved without a licence")
                .containsExactly(true, false, true);
        assertThat(lines.get(1).files()).containsExactly(field, yard);
        assertThat(Credits.of(reach(), List.of(field))).hasSize(1);
    }
}
