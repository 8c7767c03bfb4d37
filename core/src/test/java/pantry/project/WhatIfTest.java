package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.intake.Intake;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.mesh.Mesh;
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
        return publishWithPart("Trunk", Shapes.cylinder(0.5, 20, 12));
    }

    private String publishWithPart(String name, Mesh mesh) {
        Model model = new Model(
                "Mast",
                List.of(Model.Node.of(name, Matrix4.IDENTITY, List.of(new Model.Part(mesh, Workshop.RED)), List.of())),
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
            assertThat(lost.kind()).isEqualTo(Lost.Kind.OVERRIDE);
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
    void whatWasRenamedIsKnownByItsShapeAndItsOverridesAreCarriedOver() throws IOException {
        Path file = overriding();
        // The same but for the name of its part.
        String version = publishWithPart("Trunk", Shapes.block(1, 11, 1));
        WhatIf.Ripple ripple = WhatIf.ready(reach(), current(mast), version, Progress.NONE);
        Lost lost = ripple.effects().getFirst().lost().getFirst();
        assertThat(lost.file()).isEqualTo(file);
        assertThat(lost.likely()).first().satisfies(path -> assertThat(path.toString())
                .isEqualTo("/overriding/Mast/Trunk"));
        assertThat(ripple.comparison()).isPresent();
        assertThat(CarryOver.isPossible(lost)).isTrue();
        assertThat(CarryOver.change(lost).says()).contains("Trunk");
        String before = Files.readString(file);

        library.setStatus(current(mast), version, VersionStatus.READY);
        ChangeRuns runs = new ChangeRuns(folder.resolve("changes"), java.time.Clock.systemUTC());
        ChangeRuns.Done done =
                runs.run("carried over", CarryOver.edits(List.of(lost, lost)), each -> "", Progress.NONE);
        assertThat(done.failed()).isEmpty();
        assertThat(done.changes()).as("said twice, done once").isEqualTo(1);
        Stage now = stage(file);
        assertThat(now.prim(lost.path()).filter(Prim::isDefined)).isEmpty();
        assertThat(LayerFiles.read(file).prim(lost.path()))
                .as("nothing is left of it")
                .isEmpty();
        assertThat(LayerFiles.read(file).prim(lost.likely().getFirst()))
                .hasValueSatisfying(spec -> assertThat(spec.metadata()).containsKey("active"));
        assertThat(WhatIf.ready(reach(), current(mast), version, Progress.NONE).lost())
                .isZero();
        runs.undo(done.id());
        assertThat(Files.readString(file)).isEqualTo(before);
    }

    @Test
    void whatIsSaidAlreadyStaysWhereSomethingIsCarriedOver() throws IOException {
        Path file = Files.writeString(folder.resolve("both.usda"), """
                #usda 1.0
                over "A" {
                    over "Old" {
                        int only = 1
                        int both = 1
                        rel own = </A/Old/Inner>
                        over "Inner" { int inner = 1 }
                    }
                    over "New" {
                        int both = 2
                        over "Inner" { int there = 2 }
                    }
                }
                """);
        Lost lost = new Lost(Lost.Kind.OVERRIDE, file, SdfPath.of("/A/Old"), "", List.of(SdfPath.of("/A/New")));
        byte[] after = CarryOver.edits(List.of(lost)).getFirst().rewrite().of(Files.readAllBytes(file));
        Path written = Files.write(folder.resolve("after.usda"), after);
        var moved = LayerFiles.read(written).prim(SdfPath.of("/A/New")).orElseThrow();
        assertThat(moved.propertyNames()).containsExactlyInAnyOrder("only", "both", "own");
        assertThat(moved.attribute("both").orElseThrow().value()).contains(new pantry.usd.Value.Int(2));
        assertThat(new String(after)).contains("</A/New/Inner>").doesNotContain("Old");
        assertThat(moved.child("Inner").orElseThrow().propertyNames()).containsExactlyInAnyOrder("inner", "there");
        Files.writeString(file, "#usda 1.0\n");
        assertThatThrownBy(() ->
                        CarryOver.edits(List.of(lost)).getFirst().rewrite().of(Files.readAllBytes(file)))
                .hasMessageContaining("was changed since");
    }

    /** Compared with what the files show once it was really done. */
    @Test
    void retiringRemovingAndSwappingAreForetoldToo() throws IOException {
        Asset post = workshop.block("Post", "Masts", 2);
        WhatIf.Ripple retired = WhatIf.of(reach(), Imagined.retired(current(mast), "v003"), Progress.NONE);
        assertThat(retired.change().readyThen()).contains("v002");
        WhatIf.Ripple removed = WhatIf.of(reach(), Imagined.removed(current(mast)), Progress.NONE);
        assertThat(removed.effects()).extracting(WhatIf.Effect::file).containsExactly(yard, field);
        assertThat(removed.effects())
                .allSatisfy(
                        effect -> assertThat(effect.after().trianglesDrawn()).isZero());
        WhatIf.Ripple swapped = WhatIf.of(reach(), Imagined.swapped(current(mast), post), Progress.NONE);
        assertThat(swapped.change().words()).isEqualTo("Mast were swapped for Post");
        WhatIf.Effect inField = swapped.effects().getLast();
        assertThat(inField.growth()).as("it is lower, and as wide").isZero();

        library.setStatus(current(mast), "v003", VersionStatus.RETIRED);
        assertThat(model(yard).bounds()).isEqualTo(retired.effects().getFirst().boundsAfter());
        ChangeRuns runs = new ChangeRuns(folder.resolve("changes"), java.time.Clock.systemUTC());
        Updates updates = new Updates(reach(), List.of(current(mast)), List.of(field));
        runs.run(updates.swap(post), each -> pantry.usd.AssetPaths.PLAIN, each -> "", Progress.NONE);
        assertThat(model(field).bounds()).isEqualTo(inField.boundsAfter());
    }

    @Test
    void theReportShowsWhatDiffersAndNamesWhatIsLost() throws IOException {
        overriding();
        String version = publishRenamed();
        Reach reach = reach();
        WhatIf.Ripple ripple = WhatIf.ready(reach, current(mast), version, Progress.NONE);
        assertThat(RippleReport.line(ripple)).isEqualTo("2 scenes, 5 placements, 1 override or choice is lost");
        List<RipplePictures.View> views =
                RipplePictures.of(reach, ripple.change(), yard, 160, new pantry.render.RenderCache());
        assertThat(views).singleElement().satisfies(view -> {
            assertThat(view.before().getWidth()).isEqualTo(160);
            assertThat(view.changed()).isBetween(0.001, 0.9);
        });
        List<RipplePictures.View> same = RipplePictures.of(
                reach, Imagined.ready(current(mast), "v003"), yard, 160, new pantry.render.RenderCache());
        assertThat(same.getFirst().changed()).as("it is ready already").isZero();
        Path html = folder.resolve("ripple.html");
        new RippleReport(reach, ripple).write(html, new pantry.render.RenderCache(), Progress.NONE);
        assertThat(html)
                .content()
                .contains("overriding.usda", "data:image/png;base64,", "of the picture differs", "Trunk");
        Path csv = folder.resolve("ripple.csv");
        new RippleReport(reach, ripple).write(csv, new pantry.render.RenderCache(), Progress.NONE);
        assertThat(csv).content().contains("/overriding/Mast/").hasLineCount(3);
        assertThatThrownBy(() -> new RippleReport(reach, ripple)
                        .write(folder.resolve("x.pdf"), new pantry.render.RenderCache(), Progress.NONE))
                .hasMessageContaining(".csv or .html");
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

    @Test
    void whatWouldNewlyStandInSomethingElseIsTold() throws IOException {
        Asset shed = workshop.block("Shed", "Sheds", 4);
        Path file = project.resolve("row.usda");
        scene(file, scene -> {
            Workshop.stand(scene, mast, 0);
            Workshop.stand(scene, mast, -6);
            Workshop.stand(scene, shed, 1.6);
            Workshop.stand(scene, shed, -6.8);
        });
        String version = publishWithPart("Body", Shapes.box(new Vec3(-1.3, 0, -1), new Vec3(1.3, 11, 1)));
        WhatIf.Effect effect = WhatIf.ready(reach(), current(mast), version, Progress.NONE).effects().stream()
                .filter(each -> each.file().equals(file))
                .findFirst()
                .orElseThrow();
        assertThat(effect.overlaps())
                .as("the first grows into its shed, the second deeper into the one that it stands in already")
                .hasSize(2)
                .allSatisfy(overlap -> assertThat(overlap.thing()).startsWith("/row/Mast"))
                .extracting(Overlap::other)
                .containsExactlyInAnyOrder("/row/Shed", "/row/Shed_2");
        assertThat(effect.overlaps().getFirst().depth()).isCloseTo(1, within(0.03));
        assertThat(effect.overlaps().getLast().depth()).isCloseTo(0.2, within(0.03));
        assertThat(WhatIf.of(reach(), Imagined.removed(shed), Progress.NONE).effects())
                .as("what goes stands in nothing")
                .allSatisfy(each -> assertThat(each.overlaps()).isEmpty());
    }
}
