package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.catalogue.IndexDatabase;
import pantry.intake.Intake;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Transfers;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.testing.Oracle;
import pantry.testing.Workshop;

/** Two scenes, an asset with three versions and one that is made of it: who uses what. */
class ReachTest extends WithProject {
    @Test
    void usesAreCountedByFileVersionAndHowTheyAreHeld() {
        assertThat(reach().uses(current(mast), Optional.empty()))
                .extracting(
                        Reach.SceneUse::file,
                        Reach.SceneUse::placements,
                        Reach.SceneUse::version,
                        Reach.SceneUse::following,
                        Reach.SceneUse::behind)
                .containsExactlyInAnyOrder(
                        tuple(field, 1L, "v001", false, 2),
                        tuple(yard, 1L, "v001", false, 2),
                        // One of its own, and one in each of two frames.
                        tuple(yard, 3L, "v003", true, 0));
        assertThat(reach().uses(current(mast), Optional.of("v001"))).hasSize(2);
        assertThat(reach().composites(current(mast), Optional.empty()))
                .extracting(Reach.SceneUse::file)
                .containsExactly(frame.entryLayer("v001"));
        assertThat(reach().usedBy(yard))
                .extracting(use -> use.asset().card().name(), Reach.AssetUse::version, Reach.AssetUse::placements)
                .containsExactly(tuple("Frame", "v001", 2L), tuple("Mast", "v001", 1L), tuple("Mast", "v003", 3L));
    }

    @Test
    void whatIsBehindMixedOrMissingWaits() throws IOException {
        assertThat(reach().outdated())
                .extracting(Reach.Outdated::file, Reach.Outdated::path, Reach.Outdated::ready, Reach.Outdated::behind)
                .containsExactlyInAnyOrder(
                        tuple(field, "/field_1/Mast", "v003", 2), tuple(yard, "/yard/Mast_2", "v003", 2));
        assertThat(reach().waiting())
                .containsOnly(
                        java.util.Map.entry(field, new Reach.Waiting(1, 0, 0, 0)),
                        java.util.Map.entry(yard, new Reach.Waiting(1, 1, 0, 0)));
        library.setStatus(current(mast), "v001", VersionStatus.RETIRED);
        assertThat(reach().waiting().get(field)).isEqualTo(new Reach.Waiting(1, 0, 1, 0));
        AtomicFiles.deleteTree(frame.folder());
        assertThat(reach().missing())
                .extracting(UseIndex.Named::file, UseIndex.Named::places)
                .containsExactly(tuple(yard, List.of("/yard/Frame", "/yard/Frame_2")));
        assertThat(reach().waiting().get(yard)).isEqualTo(new Reach.Waiting(1, 1, 1, 1));
    }

    @Test
    void onlyWhatWasChangedIsReadAgainAndWhatStandsOnItIsCountedAgain() throws IOException {
        reach();
        List<Project> projects = List.of(Project.open(project));
        assertThat(index.refresh(projects, List.of(library), Progress.NONE)).isEqualTo(new Refreshed(3, 0, 0));
        Path master = project.resolve("master.usda");
        Files.writeString(
                master,
                "#usda 1.0\n(defaultPrim = \"All\")\ndef Xform \"All\" {\n"
                        + "  def \"A\" (references = @./yard.usda@) {}\n  def \"B\" (references = @./yard.usda@) {}\n}\n");
        assertThat(index.refresh(projects, List.of(library), Progress.NONE)).isEqualTo(new Refreshed(4, 1, 1));
        assertThat(reach().uses(current(mast), Optional.of("v003")))
                .extracting(Reach.SceneUse::file, Reach.SceneUse::placements)
                .contains(tuple(master, 6L));
        scene(yard, scene -> place(scene, mast, Optional.empty()));
        assertThat(index.refresh(projects, List.of(library), Progress.NONE)).isEqualTo(new Refreshed(4, 1, 2));
        assertThat(reach().uses(current(mast), Optional.of("v003")))
                .extracting(Reach.SceneUse::file, Reach.SceneUse::placements)
                .contains(tuple(master, 8L));
        assertThat(reach().usesOfFile(yard)).containsExactly(java.util.Map.entry(master, 2L));
        Files.delete(yard);
        assertThat(reach().uses(current(mast), Optional.empty()))
                .extracting(Reach.SceneUse::file)
                .containsExactly(field);
        assertThat(reach().missing()).extracting(UseIndex.Named::target).contains(yard);
    }

    @Test
    void anAssetThatWasMovedIsStillFoundByItsSignpost() {
        reach();
        library.places().move(current(mast), "Elsewhere/Tall");
        assertThat(reach().uses(library.find("Mast"), Optional.of("v001")))
                .extracting(Reach.SceneUse::file)
                .containsExactlyInAnyOrder(field, yard);
        assertThat(reach().outdated()).hasSize(2);
        assertThat(reach().missing()).isEmpty();
    }

    @Test
    void whatNobodyUsesIsToldWithItsWeight() {
        Asset spare = workshop.block("Spare", "Masts", 1);
        Reach.Unused unused = reach().unused(library);
        assertThat(unused.assets()).singleElement().satisfies(each -> {
            assertThat(each.asset().card().id()).isEqualTo(spare.card().id());
            assertThat(each.bytes()).isGreaterThan(1000);
        });
        assertThat(unused.versions())
                .extracting(each -> each.asset().card().name(), Reach.UnusedVersion::version)
                .containsExactly(tuple("Mast", "v002"));
    }

    @Test
    void aFileThatCannotBeReadIsToldAndTheRestGoesOn() throws IOException {
        Path broken = project.resolve("broken.usda");
        Files.writeString(broken, "#usda 1.0\ndef {{{");
        Reach reach = reach();
        assertThat(reach.unreadable()).singleElement().satisfies(each -> {
            assertThat(each.file()).isEqualTo(broken);
            assertThat(each.problem()).contains("broken.usda").contains("line 2");
        });
        assertThat(reach.uses(current(mast), Optional.empty())).hasSize(3);
        Files.writeString(broken, "#usda 1.0\n");
        assertThat(reach().unreadable()).isEmpty();
    }

    @Test
    void aFileThatBringsInMoreThanCanBeComposedIsToldAndTheRestIsCounted() throws IOException {
        for (int level = 0; level < 7; level++) {
            StringBuilder text = new StringBuilder("#usda 1.0\n(defaultPrim = \"R\")\ndef Xform \"R\" {\n");
            for (int i = 0; level < 6 && i < 12; i++) {
                text.append("def \"C")
                        .append(i)
                        .append("\" (references = @./level")
                        .append(level + 1)
                        .append(".usda@) { over \"C0\" {} }\n");
            }
            Files.writeString(project.resolve("level" + level + ".usda"), text.append("}\n"));
        }
        Reach reach = reach();
        assertThat(reach.unreadable())
                .extracting(UseIndex.Unreadable::file)
                .contains(project.resolve("level0.usda"))
                .doesNotContain(project.resolve("level4.usda"), yard);
        assertThat(reach.usesOfFile(project.resolve("level6.usda")))
                .containsEntry(project.resolve("level5.usda"), 12L)
                .containsEntry(project.resolve("level3.usda"), 1728L)
                .doesNotContainKey(project.resolve("level0.usda"));
        // Once it is mended, nothing is told of it any more, although only what it stands on was changed.
        Files.writeString(project.resolve("level1.usda"), "#usda 1.0\n(defaultPrim = \"R\")\ndef Xform \"R\" {}\n");
        assertThat(reach().unreadable())
                .extracting(UseIndex.Unreadable::file)
                .doesNotContain(project.resolve("level0.usda"));
    }

    @Test
    void hiddenFoldersOthersLibrariesAndWhatIsLeftOutAreNoneOfTheProjects() throws IOException {
        for (String other : List.of(".old", "drafts", "lib/assets")) {
            Files.createDirectories(project.resolve(other));
            Files.writeString(project.resolve(other).resolve("x.usda"), "#usda 1.0\n");
        }
        Files.writeString(project.resolve("lib/pantry-library.json"), "{}");
        Files.createSymbolicLink(project.resolve("circle"), project);
        assertThat(Project.open(project).files()).contains(project.resolve("drafts/x.usda"));
        Project told = Project.open(project).with(new ProjectInfo("Camp", List.of(), List.of(), List.of("drafts")));
        assertThat(Project.open(project)).isEqualTo(told);
        assertThat(told.name()).isEqualTo("Camp");
        assertThat(told.files()).containsExactlyInAnyOrder(yard, field);
    }

    @Test
    void whatOthersHaveIndexedOnAnotherMachineIsLeftAlone() throws IOException {
        Path theirs = Files.createDirectories(folder.resolve("their machine/project"));
        Files.writeString(
                theirs.resolve("scene.usda"),
                "#usda 1.0\n(defaultPrim = \"S\")\ndef \"S\" { def \"M\" (references = @../../library/assets/Masts/mast/ready.usda@) {} }\n");
        List<Project> other = List.of(Project.open(theirs));
        index.refresh(other, List.of(library), Progress.NONE);
        Reach before = new Reach(index, List.of(library), other);
        assertThat(before.uses(current(mast), Optional.empty())).hasSize(1);
        // From here, their folder is not to be seen.
        Files.move(theirs.getParent(), folder.resolve("away"));
        assertThat(reach().uses(current(mast), Optional.empty())).hasSize(3);
        assertThat(new Reach(index, List.of(library), other).uses(current(mast), Optional.empty()))
                .hasSize(1);
    }

    @Test
    void theTeamsDatabaseAnswersAlike() {
        String url = System.getenv("PANTRY_TEST_POSTGRES");
        assumeTrue(url != null, "no PostgreSQL: its tests are skipped");
        List<Reach.SceneUse> own = reach().uses(current(mast), Optional.empty());
        try (IndexDatabase team = IndexDatabase.open(url)) {
            UseIndex shared = new UseIndex(team);
            List<Project> projects = List.of(Project.open(project));
            shared.refresh(projects, List.of(library), Progress.NONE);
            Reach reach = new Reach(shared, List.of(library), projects);
            assertThat(reach.uses(current(mast), Optional.empty())).isEqualTo(own);
            assertThat(reach.waiting()).isEqualTo(reach().waiting());
        }
    }

    @Test
    void usedVersionsThatAreNotAsTheyWereSealedAreTold() throws IOException {
        assertThat(reach().broken(Progress.NONE)).isEmpty();
        Path data = mast.data("v001").resolve("mast.geom.usdc");
        byte[] bytes = Files.readAllBytes(data);
        bytes[bytes.length / 2] ^= 1;
        Files.write(data, bytes);
        assertThat(reach().broken(Progress.NONE)).singleElement().satisfies(broken -> {
            assertThat(broken.asset()).isEqualTo(current(mast));
            assertThat(broken.version()).isEqualTo("v001");
            assertThat(broken.placements()).as("one in each file").isEqualTo(2);
            assertThat(broken.problem().path()).isEqualTo(data);
        });
        Path unused = mast.data("v002").resolve("mast.geom.usdc");
        Files.write(unused, bytes);
        assertThat(reach().broken(Progress.NONE)).as("nobody uses the second").hasSize(1);
    }

    @Test
    void copiesWhoseOriginalsHaveMovedOnAreToldWhileTheyAreUsed() {
        Library other = Library.create(folder.resolve("other"), "Other", "tester", Clock.systemUTC());
        Asset copy = new Transfers(library, other).copy(mast, "Copies", Progress.NONE);
        List<Project> projects = List.of(Project.open(project));
        scene(project.resolve("copy.usda"), scene -> place(scene, copy, Optional.empty()));
        List<Library> both = List.of(library, other);
        index.refresh(projects, both, Progress.NONE);
        assertThat(new Reach(index, both, projects).movedOn())
                .as("it has the same versions")
                .isEmpty();
        workshop.intake()
                .publish(
                        Workshop.model("Mast", Shapes.block(1, 14, 1)),
                        Workshop.slip("Mast", "Masts"),
                        new Intake.Next(current(mast), VersionStatus.READY, ""),
                        library,
                        Progress.NONE);
        assertThat(new Reach(index, both, projects).movedOn()).singleElement().satisfies(moved -> {
            assertThat(moved.copy().card().id()).isEqualTo(copy.card().id());
            assertThat(moved.original().card().id()).isEqualTo(mast.card().id());
            assertThat(moved.versions()).isEqualTo(1);
            assertThat(moved.placements()).isEqualTo(1);
        });
    }

    /** Against tinyusdz, which composes each file: whatever comes of an asset says so in its assetInfo. */
    @Test
    @Tag("oracle")
    void usesAreThoseThatAnIndependentProgramComposes() {
        Reach reach = reach();
        List<Path> files = reach.files();
        String[] composed = Oracle.run(
                        "compose.mjs", files.stream().map(Path::toString).toArray(String[]::new))
                .split("\n#end\n");
        int compared = 0;
        for (int i = 0; i < files.size(); i++) {
            assertThat(composed[i]).doesNotStartWith("#error");
            for (Asset asset : List.of(current(mast), current(frame))) {
                Path file = files.get(i);
                long theirs = composed[i].split("identifier = \"" + asset.card().id(), -1).length - 1L;
                long ours = reach.uses(asset, Optional.empty()).stream()
                        .filter(use -> use.file().equals(file))
                        .mapToLong(Reach.SceneUse::placements)
                        .sum();
                assertThat(ours).as(asset.card().name() + " in " + file).isEqualTo(theirs);
                compared += ours > 0 ? 1 : 0;
            }
        }
        assertThat(compared).isEqualTo(3);
    }
}
