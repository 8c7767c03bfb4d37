package pantry.desktop.reach;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Desk;
import pantry.desktop.session.Followers;
import pantry.desktop.session.Session;
import pantry.intake.Intake;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.project.Change;
import pantry.project.HandOver;
import pantry.project.Reach;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.compose.Prim;
import pantry.usd.schema.TransformComponents;

/** Two scenes that pin the first version of a mast, of which there is a second. */
class ReachModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Session session;
    private ReachModel model;
    private Path yard;
    private Path field;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        session = desk.session();
        Asset mast = desk.shelve("Lattice mast", "Masts", 9);
        yard = scene("yard", mast);
        field = scene("field", mast);
        desk.library().goBack(mast, "v001", "once more", pantry.base.Progress.NONE);
        desk.open();
        model = new ReachModel(session);
        model.refresh();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Path scene(String name, Asset mast) {
        Path file = folder.resolve("project/" + name + ".usda");
        Scene scene = session.workbench().createScene(file);
        for (int i = 0; i < 2; i++) {
            scene.placements().place(mast, Optional.of("v001"), "Mast", TransformComponents.ORIGIN, Optional.empty());
        }
        scene.save();
        return file;
    }

    private static String read(Path file) throws IOException {
        return Files.readString(file);
    }

    @Test
    void whatWaitsIsCountedForAllProjects() {
        assertThat(model.waitingProperty().get()).isEqualTo(4);
        assertThat(model.knownProperty().get().waiting())
                .containsOnly(
                        Map.entry(yard, new Reach.Waiting(2, 0, 0, 0)),
                        Map.entry(field, new Reach.Waiting(2, 0, 0, 0)));
        assertThat(model.plannedProperty().get().plan().changes()).hasSize(4);
        session.closeProject(folder.resolve("project"));
        assertThat(model.waitingProperty().get()).isZero();
        assertThat(model.plannedProperty().get().plan().changes()).isEmpty();
    }

    @Test
    void aFileOrAnAssetIsLookedAtAndOnlyThatIsPlanned() {
        model.subjectProperty().set(new Subject.OfFile(yard));
        assertThat(model.graphProperty().get().nodes()).hasSize(2);
        assertThat(model.plannedProperty().get().plan().byFile()).containsOnlyKeys(yard);
        model.subjectProperty()
                .set(new Subject.OfAsset(
                        desk.library().find("Lattice mast").card().id()));
        assertThat(model.asset()).isPresent();
        assertThat(model.graphProperty().get().nodes())
                .as("two versions, two files")
                .hasSize(4);
        model.goalProperty().set(Goal.PIN);
        assertThat(model.plannedProperty().get().plan().changes())
                .as("all are pinned")
                .isEmpty();
        model.subjectProperty().set(new Subject.OfAsset("gone"));
        assertThat(model.graphProperty().get().nodes()).isEmpty();
        assertThat(model.plannedProperty().get().plan().changes()).isEmpty();
    }

    @Test
    void allButOneLineAreChangedAndTheLedgerTakesItBack() throws IOException {
        String before = read(yard);
        Change kept = model.plannedProperty().get().plan().changes().getFirst();
        model.unticked().add(kept);
        assertThat(model.ticked().changes()).hasSize(3);
        model.carryOut();
        assertThat(session.ledger().getFirst().text()).contains("3 places in 2 files");
        assertThat(model.waitingProperty().get())
                .as("one is behind, in a file with two versions")
                .isEqualTo(2);
        assertThat(session.rewrittenProperty().get()).containsExactlyInAnyOrder(yard, field);
        assertThat(model.unticked()).containsExactly(kept);
        takeBack();
        assertThat(read(yard)).isEqualTo(before);
        assertThat(model.waitingProperty().get()).isEqualTo(4);
    }

    @Test
    void aSceneWithUnsavedChangesIsLeftAloneAndNamed() throws IOException {
        String before = read(yard);
        session.unsavedProperty().set(Set.of(yard));
        model.carryOut();
        assertThat(read(yard)).isEqualTo(before);
        assertThat(session.ledger())
                .anySatisfy(
                        line -> assertThat(line.text()).contains("yard.usda").contains("not saved"));
        assertThat(model.waitingProperty().get()).isEqualTo(2);
    }

    @Test
    void whatIsMissingIsFoundInTheFoldersThatAreSearched() throws IOException {
        Path sign = folder.resolve("project/sign.usda");
        Files.writeString(sign, "#usda 1.0\ndef Shader \"S\" { asset inputs:file = @./gone/label.png@ }\n");
        Path found = Files.createDirectories(folder.resolve("attic")).resolve("label.png");
        Files.writeString(found, "image");
        model.refresh();
        assertThat(model.knownProperty().get().waiting().get(sign)).isEqualTo(new Reach.Waiting(0, 0, 0, 1));
        model.goalProperty().set(Goal.RELINK);
        assertThat(model.plannedProperty().get().missing()).hasSize(1);
        assertThat(model.plannedProperty().get().plan().changes()).isEmpty();
        model.searched().add(found.getParent());
        model.carryOut();
        assertThat(read(sign)).contains("@../attic/label.png@");
        assertThat(model.plannedProperty().get().missing()).isEmpty();
    }

    @Test
    void copiesOfAssetsArePlacedButForThoseThatAreUnticked() throws IOException {
        Path old = folder.resolve("project/old.usda");
        Files.copy(desk.file("block.usda", 9), old);
        Path other = folder.resolve("project/other.usda");
        Files.copy(old, other);
        model.refresh();
        model.goalProperty().set(Goal.STRAYS);
        assertThat(model.plannedProperty().get().plan().changes())
                .extracting(Change::file)
                .containsExactly(old, other);
        model.subjectProperty().set(new Subject.OfFile(old));
        assertThat(model.plannedProperty().get().plan().changes()).hasSize(1);
        model.subjectProperty().set(Subject.ALL);
        model.unticked().add(model.plannedProperty().get().plan().changes().getLast());
        String before = read(old);
        model.carryOut();
        assertThat(read(old)).contains("ready.usda");
        assertThat(read(other)).isEqualTo(before);
        assertThat(model.plannedProperty().get().plan().changes())
                .extracting(Change::file)
                .containsExactly(other);
        takeBack();
        assertThat(read(old)).isEqualTo(before);
    }

    @Test
    void whatAVersionWouldDoIsSeenAndThenItIsMadeReady() {
        Asset mast = desk.library().find("Lattice mast");
        desk.library().setStatus(mast, "v002", pantry.library.VersionStatus.DRAFT);
        Scene scene = session.workbench().openScene(yard);
        scene.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        model.refresh();
        model.goalProperty().set(Goal.RIPPLE);
        assertThat(model.plannedProperty().get().ripple()).as("of no asset").isEmpty();
        model.subjectProperty().set(new Subject.OfAsset(mast.card().id()));
        assertThat(model.plannedProperty().get().ripple()).hasValueSatisfying(ripple -> {
            assertThat(ripple.version()).isEqualTo("v002");
            assertThat(ripple.effects()).hasSize(1);
            assertThat(ripple.placements()).isEqualTo(1);
        });
        model.carryOut();
        assertThat(desk.library().find("Lattice mast").ready()).contains("v002");
        assertThat(model.plannedProperty().get().ripple())
                .hasValueSatisfying(ripple -> assertThat(ripple.effects()).isEmpty());
        takeBack();
        assertThat(desk.library().find("Lattice mast").ready()).contains("v001");
    }

    /** A scene that follows the mast and says something of its only part, and a draft in which that has another name. */
    private Path overriding(Asset mast) throws IOException {
        String part = session
                .workbench()
                .openScene(mast.entryLayer("v001"))
                .stage()
                .prim(SdfPath.of("/Lattice_mast"))
                .orElseThrow()
                .children()
                .stream()
                .map(Prim::name)
                .filter(name -> !name.equals("Materials"))
                .findFirst()
                .orElseThrow();
        Path file = folder.resolve("project/override.usda");
        Files.writeString(file, """
                #usda 1.0
                (defaultPrim = "Yard" metersPerUnit = 1 upAxis = "Y")
                def Xform "Yard" (kind = "assembly") {
                    def "Mast" (references = @%s@) {
                        over "%s" (active = false) {}
                    }
                }
                """.formatted(mast.readyLayer(), part));
        Model renamed = new Model(
                "Lattice mast",
                List.of(Model.Node.of(
                        "Trunk",
                        Matrix4.IDENTITY,
                        List.of(new Model.Part(Shapes.block(1, 9, 1), Material.PLAIN)),
                        List.of())),
                Model.Extras.NONE);
        session.workbench()
                .intake()
                .publish(
                        renamed,
                        Slip.plain("Lattice mast", AssetKind.MODEL, "Masts", 1, Axis.Y),
                        new Intake.Next(desk.library().current(mast), VersionStatus.DRAFT, "renamed"),
                        desk.library(),
                        Progress.NONE);
        return file;
    }

    @Test
    void anOverrideThatWouldLoseItsTargetIsCarriedOverWithTheVersion() throws IOException {
        Asset mast = desk.library().find("Lattice mast");
        Path file = overriding(mast);
        String before = read(file);
        model.subjectProperty().set(new Subject.OfAsset(mast.card().id()));
        model.goalProperty().set(Goal.RIPPLE);
        model.refresh();
        assertThat(model.plannedProperty().get().ripple())
                .hasValueSatisfying(ripple -> assertThat(ripple.lost()).isEqualTo(1));
        assertThat(model.plannedProperty().get().plan().changes())
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.file()).isEqualTo(file);
                    assertThat(change.says()).contains("Trunk");
                });
        model.ripple().show(file);
        assertThat(model.ripple().picturedProperty().get())
                .hasValueSatisfying(shown -> assertThat(shown.views()).hasSize(1));
        Path report = folder.resolve("ripple.csv");
        model.ripple().report(report);
        assertThat(report).content().contains("Trunk");
        model.carryOut();
        assertThat(desk.library().find("Lattice mast").ready()).contains("v003");
        assertThat(read(file)).contains("over \"Trunk\"");
        assertThat(session.ledger().getFirst().text()).contains("carried over 1 override");
        assertThat(model.ripple().picturedProperty().get())
                .as("what was shown is not so any more")
                .isEmpty();
        takeBack();
        assertThat(read(file)).isEqualTo(before);
        assertThat(desk.library().find("Lattice mast").ready()).contains("v002");
    }

    @Test
    void anotherAssetIsUsedInsteadAndWhatThatDoesIsSeenFirst() throws IOException {
        Asset mast = desk.library().find("Lattice mast");
        Asset post = desk.shelve("Post", "Masts", 2);
        session.shelving().refresh(desk.library());
        model.refresh();
        model.subjectProperty().set(new Subject.OfAsset(mast.card().id()));
        model.goalProperty().set(Goal.SWAP);
        assertThat(model.plannedProperty().get().plan().changes())
                .as("for which one is not known")
                .isEmpty();
        model.insteadProperty().set(Optional.of(mast.card().id()));
        assertThat(model.plannedProperty().get().ripple()).as("for itself").isEmpty();
        model.insteadProperty().set(Optional.of(post.card().id()));
        assertThat(model.plannedProperty().get().plan().changes()).hasSize(4);
        assertThat(model.plannedProperty().get().ripple())
                .hasValueSatisfying(ripple -> assertThat(ripple.placements()).isEqualTo(4));
        model.carryOut();
        assertThat(read(yard)).contains("/post/").doesNotContain("lattice-mast");
        for (Goal goal : List.of(Goal.RETIRED, Goal.REMOVED)) {
            model.goalProperty().set(goal);
            model.subjectProperty().set(new Subject.OfAsset(post.card().id()));
            assertThat(model.plannedProperty().get().ripple()).isPresent();
            model.carryOut();
            assertThat(desk.library().find("Post").ready())
                    .as("it was only asked")
                    .isPresent();
        }
    }

    @Test
    void whoIsLookingIsNotDisturbedWhileNothingChanges() throws IOException {
        KnownProjects before = model.knownProperty().get();
        model.lookAgain();
        assertThat(model.knownProperty().get()).isSameAs(before);
        Files.delete(field);
        model.lookAgain();
        assertThat(model.knownProperty().get().waiting()).containsOnlyKeys(yard);
        Asset mast = desk.library().find("Lattice mast");
        desk.library().setStatus(mast, "v001", pantry.library.VersionStatus.RETIRED);
        model.lookAgain();
        assertThat(model.knownProperty().get().waiting().get(yard)).isEqualTo(new Reach.Waiting(2, 0, 1, 0));
    }

    @Test
    void whatIsChosenIsHandedOverIntoAFolderOfItsOwn() throws IOException {
        model.subjectProperty().set(new Subject.OfFile(yard));
        model.goalProperty().set(Goal.HAND_OVER);
        assertThat(model.plannedProperty().get().handOver())
                .hasValueSatisfying(handOver -> assertThat(handOver.scenes()).containsExactly(yard));
        Path out = Files.createDirectories(folder.resolve("out"));
        model.handOver(out);
        model.formProperty().set(HandOver.Form.PACKAGES);
        model.handOver(out);
        try (Stream<Path> made = Files.list(out)) {
            assertThat(made.map(file -> file.getFileName().toString()))
                    .hasSize(2)
                    .allMatch(name -> name.startsWith("project-20"));
        }
        assertThat(session.ledger().getFirst().text()).contains("handed over 1 scene");
        model.subjectProperty()
                .set(new Subject.OfAsset(
                        desk.library().find("Lattice mast").card().id()));
        assertThat(model.plannedProperty().get().handOver())
                .hasValueSatisfying(handOver -> assertThat(handOver.scenes()).containsExactly(field, yard));
        model.subjectProperty().set(new Subject.OfAsset("gone"));
        assertThat(model.plannedProperty().get().handOver()).isEmpty();
    }

    @Test
    void aFileIsMovedWithAllThatRefersToItUnlessOneIsNotSaved() throws IOException {
        Path whole = folder.resolve("project/whole.usda");
        Files.writeString(whole, "#usda 1.0\ndef \"A\" (references = @./yard.usda@) {}\n");
        model.refresh();
        Path to = folder.resolve("project/north/yard.usda");
        session.unsavedProperty().set(Set.of(whole));
        model.move(yard, to);
        assertThat(yard).exists();
        assertThat(session.ledger().getFirst().text()).contains("whole.usda", "not saved");
        session.unsavedProperty().set(Set.of());
        model.move(yard, to);
        assertThat(yard).doesNotExist();
        assertThat(read(whole)).contains("@./north/yard.usda@");
        assertThat(model.knownProperty().get().projects().getFirst().files()).contains(to);
        assertThat(session.ledger().getFirst().text()).contains("1 file names it there");
        takeBack();
        assertThat(read(whole)).contains("@./yard.usda@");
        assertThat(yard).exists();
    }

    @Test
    void whatNobodyUsesGoesIntoAnArchiveAndComesBack() {
        desk.shelve("Post", "Masts", 2);
        desk.shelve("Rail", "Masts", 1);
        session.shelving().refresh(desk.library());
        Path archive = folder.resolve("archive");
        Library there = Library.create(archive, "Archive", "tester", java.time.Clock.systemUTC());
        model.refresh();
        model.goalProperty().set(Goal.ARCHIVE);
        assertThat(model.plannedProperty().get().plan().changes())
                .extracting(Change::says)
                .containsExactlyInAnyOrder("Post", "Rail");
        model.unticked()
                .add(model.plannedProperty().get().plan().changes().stream()
                        .filter(change -> change.says().equals("Rail"))
                        .findFirst()
                        .orElseThrow());
        model.archive(archive);
        assertThat(there.assets()).extracting(asset -> asset.card().name()).containsExactly("Post");
        assertThat(model.plannedProperty().get().plan().changes())
                .extracting(Change::says)
                .containsExactly("Rail");
        takeBack();
        assertThat(there.assets()).isEmpty();
        assertThat(model.plannedProperty().get().plan().changes()).hasSize(2);
    }

    @Test
    void shelvesAreSearchedForWhatProjectsMakeOfAssets() {
        desk.shelve("Post", "Posts", 1);
        session.shelving().refresh(desk.library());
        model.refresh();
        AssetSearch search = new AssetSearch(session);
        Map<String, List<String>> answers = new LinkedHashMap<>();
        for (String asked : List.of(
                "used-by:yard", "used-by:nowhere", "behind:", "behind:>1", "unused:", "-unused:", "post unused:")) {
            search.wordsProperty().set(asked);
            answers.put(asked, search.items().stream().map(IndexedAsset::name).toList());
        }
        assertThat(answers)
                .containsEntry("used-by:yard", List.of("Lattice mast"))
                .containsEntry("used-by:nowhere", List.of())
                .containsEntry("behind:", List.of("Lattice mast"))
                .containsEntry("behind:>1", List.of())
                .containsEntry("unused:", List.of("Post"))
                .containsEntry("-unused:", List.of("Lattice mast"))
                .containsEntry("post unused:", List.of("Post"));
        session.closeProject(folder.resolve("project"));
        assertThat(search.items()).isEmpty();
        assertThat(search.foundProperty().get().complaints()).singleElement().satisfies(said -> assertThat(said)
                .contains("none is open"));
    }

    @Test
    void whoWouldShowANewVersionAtOnceIsCounted() {
        String mast = desk.library().find("Lattice mast").card().id();
        List<String> told = new ArrayList<>();
        Followers.ask(session, mast, followers -> told.add(followers.words()));
        model.goalProperty().set(Goal.FOLLOW);
        model.subjectProperty().set(new Subject.OfFile(yard));
        model.carryOut();
        Followers.ask(session, mast, followers -> told.add(followers.words()));
        session.closeProject(folder.resolve("project"));
        Followers.ask(session, mast, followers -> told.add(followers.words()));
        assertThat(told)
                .as("nothing is told where no project is open")
                .containsExactly("nobody", "1 scene, 2 placements");
    }

    @Test
    void assetsThatAreTheSameThingAreMergedAndTakenApartAgain() throws IOException {
        Asset post = desk.shelve("Post", "Attic", 9);
        Path file = scene("posts", post);
        String before = read(file);
        session.shelving().refresh(desk.library());
        model.refresh();
        model.goalProperty().set(Goal.MERGE);
        assertThat(PlanWords.said(model.plannedProperty().get(), Goal.MERGE)).contains("one shape and one size");
        assertThat(model.plannedProperty().get().plan().changes())
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.says()).isEqualTo("Post becomes Lattice mast");
                    assertThat(change.place()).isEqualTo("Attic · 2 placements");
                });
        model.subjectProperty().set(new Subject.OfFile(file));
        assertThat(model.plannedProperty().get().plan().changes()).isEmpty();
        model.subjectProperty().set(new Subject.OfAsset(post.card().id()));
        assertThat(model.plannedProperty().get().plan().changes()).hasSize(1);
        model.merge();
        assertThat(session.ledger().getFirst().text()).isEqualTo("merged 1 asset with its like: 2 places in 1 file");
        assertThat(session.rewrittenProperty().get()).containsExactly(file);
        assertThat(desk.library().byId(post.card().id())).isEmpty();
        assertThat(PlanWords.said(model.plannedProperty().get(), Goal.MERGE)).contains("No two assets");
        takeBack();
        assertThat(read(file)).isEqualTo(before);
        assertThat(desk.library().byId(post.card().id())).isPresent();
        assertThat(model.plannedProperty().get().plan().changes()).hasSize(1);
    }

    @Test
    void versionsThatNobodyUsesAreArchivedAndCalledBack() throws IOException {
        Library there = Library.create(folder.resolve("archive"), "Archive", "tester", java.time.Clock.systemUTC());
        model.goalProperty().set(Goal.ARCHIVE);
        assertThat(model.plannedProperty().get().plan().changes())
                .as("the first version is pinned")
                .isEmpty();
        model.goalProperty().set(Goal.FOLLOW);
        model.carryOut();
        model.goalProperty().set(Goal.ARCHIVE);
        assertThat(model.plannedProperty().get().plan().changes())
                .extracting(Change::says)
                .containsExactly("Lattice mast v001");
        assertThat(PlanWords.said(model.plannedProperty().get(), Goal.ARCHIVE)).contains("assets and versions");
        model.archive(there.root());
        assertThat(session.ledger().getFirst().text()).startsWith("archived 1 version in ");
        assertThat(there.assets()).singleElement().satisfies(asset -> assertThat(asset.versions())
                .containsExactly("v001"));
        assertThat(model.plannedProperty().get().plan().changes()).isEmpty();
        takeBack();
        assertThat(there.assets()).isEmpty();
        assertThat(desk.library().find("Lattice mast").versions()).containsExactly("v001", "v002");
        assertThat(model.plannedProperty().get().plan().changes()).hasSize(1);
    }

    @Test
    void whatIsUsedAndNotAsItWasSealedIsSaid() throws IOException {
        model.goalProperty().set(Goal.CHECK);
        assertThat(PlanWords.said(model.plannedProperty().get(), Goal.CHECK))
                .startsWith("All versions that are used are");
        assertThat(PlanLine.of(model.plannedProperty().get())).isEmpty();
        Path data = desk.library().find("Lattice mast").data("v001").resolve("lattice-mast.geom.usdc");
        byte[] bytes = Files.readAllBytes(data);
        bytes[bytes.length / 2] ^= 1;
        Files.write(data, bytes);
        model.goalProperty().set(Goal.READY);
        model.goalProperty().set(Goal.CHECK);
        assertThat(PlanLine.of(model.plannedProperty().get()))
                .singleElement()
                .isInstanceOfSatisfying(PlanLine.Note.class, note -> {
                    assertThat(note.says()).isEqualTo("Lattice mast v001 is not as it was sealed");
                    assertThat(note.more()).contains("lattice-mast.geom.usdc", "4 placements");
                    assertThat(note.wrong()).isTrue();
                });
        assertThat(PlanWords.said(model.plannedProperty().get(), Goal.CHECK)).contains("compared with its seal");
    }

    @Test
    void scenesAreWeighedOnlyWhileSomebodyLooks() {
        WeightModel weight = model.weight();
        assertThat(weight.weightProperty().get()).isEmpty();
        weight.shownProperty().set(true);
        assertThat(weight.weightProperty().get()).hasValueSatisfying(all -> {
            assertThat(all.scenes()).containsExactly(field, yard);
            assertThat(all.whole().amounts().placements()).isEqualTo(4);
            assertThat(all.asset(all.whole())).isEmpty();
        });
        model.subjectProperty().set(new Subject.OfFile(yard));
        assertThat(weight.weightProperty().get())
                .hasValueSatisfying(all -> assertThat(all.scenes()).containsExactly(yard));
        session.closeProject(folder.resolve("project"));
        assertThat(weight.weightProperty().get()).isEmpty();
        assertThat(weight.savingsProperty().get()).isEmpty();
    }

    /** Takes back what was done last: once, and once more after it was done again. */
    private void takeBack() {
        session.history().undo();
        session.history().redo();
        assertThat(session.ledger().getFirst().text()).startsWith("did again: ");
        session.history().undo();
        assertThat(session.ledger().getFirst().text()).startsWith("took back: ");
    }
}
