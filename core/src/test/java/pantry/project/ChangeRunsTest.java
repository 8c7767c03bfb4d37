package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import pantry.base.AtomicFiles;
import pantry.base.HeldFolder;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.testing.faults.Faults;
import pantry.usd.AssetPaths;
import pantry.usd.file.LayerFiles;

/** Changes over many files: planned, made, undone, stopped and taken back. */
class ChangeRunsTest extends WithProject {
    private ChangeRuns runs;

    @BeforeEach
    void begin() {
        runs = new ChangeRuns(folder.resolve("changes"), Clock.systemUTC());
    }

    private ChangeRuns.Done run(ChangePlan plan) {
        return runs.run(plan, file -> AssetPaths.PLAIN, file -> "", Progress.NONE);
    }

    private Updates updates() {
        return new Updates(reach(), List.of(), List.of());
    }

    @Test
    void pinnedPlacementsAreUpdatedAndNothingElseInTheirFilesIsChanged() throws IOException {
        // As another program might have left it.
        String text = Files.readString(yard).replace("def Xform", "# by hand\n\n  def   Xform");
        Files.writeString(yard, text);
        ChangePlan plan = updates().toReady();
        assertThat(plan.changes()).hasSize(2).extracting(Change::says).containsOnly("Mast: v001 → v003");
        ChangeRuns.Done done = run(plan);
        assertThat(done.changed()).containsExactlyInAnyOrder(yard, field);
        assertThat(Files.readString(yard)).isEqualTo(text.replace("mast/v001/data", "mast/v003/data"));
        assertThat(reach().outdated()).isEmpty();
        assertThat(reach().uses(current(mast), Optional.of("v003")))
                .extracting(Reach.SceneUse::placements)
                .containsExactlyInAnyOrder(1L, 1L, 3L);
        assertThat(runs.undo(done.id()).restored()).hasSize(2);
        assertThat(Files.readString(yard)).isEqualTo(text);
        assertThat(reach().outdated()).hasSize(2);
        assertThatThrownBy(() -> runs.undo(done.id())).isInstanceOf(PantryException.class);
    }

    @Test
    void aSceneIsPinnedForADeliveryAndFollowsAgain() {
        run(new Updates(reach(), List.of(), List.of(yard)).pin());
        assertThat(reach().held()).filteredOn(held -> held.file().equals(yard)).allMatch(held -> held.version()
                .isPresent());
        run(updates().follow());
        assertThat(reach().held()).allMatch(held -> held.version().isEmpty());
        assertThat(updates().follow().changes()).isEmpty();
        run(new Updates(reach(), List.of(current(mast)), List.of()).to("v002"));
        assertThat(reach().uses(current(mast), Optional.of("v002"))).hasSize(2);
        assertThatThrownBy(() -> new Updates(reach(), List.of(frame), List.of()).to("v002"))
                .hasMessageContaining("has no version v002");
        assertThatThrownBy(() -> new Updates(reach(), List.of(), List.of(folder.resolve("x.usda"))))
                .hasMessageContaining("is no file of the projects");
    }

    @Test
    void oneAssetIsSwappedForAnotherAndLinesCanBeLeftOut() {
        pantry.library.Asset post = workshop.block("Post", "Masts", 2);
        ChangePlan plan = new Updates(reach(), List.of(current(mast)), List.of()).swap(post);
        assertThat(plan.changes()).hasSize(3);
        Change kept = plan.changes().getFirst();
        run(plan.without(Set.of(kept)));
        assertThat(reach().uses(post, Optional.empty()))
                .extracting(Reach.SceneUse::file)
                .containsOnly(yard);
        assertThat(reach().held())
                .filteredOn(
                        held -> held.place().equals(kept.place()) && held.file().equals(kept.file()))
                .allMatch(held -> held.asset().card().name().equals("Mast"));
    }

    @Test
    void aBinaryFileSaysTheSameOtherwise() throws IOException {
        Path binary = project.resolve("yard.usdc");
        LayerFiles.write(LayerFiles.read(yard), binary);
        Files.delete(yard);
        reach();
        run(updates().toReady());
        assertThat(reach().outdated()).isEmpty();
        assertThat(reach().uses(current(mast), Optional.of("v003")))
                .filteredOn(use -> use.file().equals(binary))
                .extracting(Reach.SceneUse::placements)
                .containsExactlyInAnyOrder(1L, 3L);
    }

    @Test
    void filesThatMayNotBeWrittenAreNamedAndTheRestIsDone() throws IOException {
        ChangePlan plan = updates().toReady();
        ChangeRuns.Done done = runs.run(
                plan,
                file -> AssetPaths.PLAIN,
                file -> file.equals(yard) ? "is open with changes that are not saved" : "",
                Progress.NONE);
        assertThat(done.changed()).containsExactly(field);
        assertThat(done.failed()).containsExactly(Map.entry(yard, "is open with changes that are not saved"));
        // What is done already is done no second time, nor is a place changed that says something else by now.
        ChangeRuns.Done again = run(plan);
        assertThat(again.changed()).containsExactly(yard);
        assertThat(again.failed().get(field)).contains("was changed since the plan was made");
    }

    @Test
    void whatOthersChangedSinceIsNotOverwrittenByUndo() throws IOException {
        ChangeRuns.Done done = run(updates().toReady());
        Files.writeString(field, Files.readString(field) + "\n# later\n");
        ChangeRuns.Undone undone = runs.undo(done.id());
        assertThat(undone.restored()).containsExactly(yard.toRealPath());
        assertThat(undone.kept()).containsExactly(field.toRealPath());
        assertThat(Files.readString(field)).contains("v003").endsWith("# later\n");
    }

    private static Progress cancelledAfter(int steps) {
        AtomicInteger left = new AtomicInteger(steps);
        return new Progress() {
            @Override
            public void report(String what, double fraction) {}

            @Override
            public boolean cancelled() {
                return left.getAndDecrement() <= 0;
            }
        };
    }

    @Test
    void aCancelledRunLeavesEverythingAsItWas() throws IOException {
        String before = Files.readString(yard) + Files.readString(field);
        ChangePlan plan = updates().toReady();
        assertThatThrownBy(() -> runs.run(plan, file -> AssetPaths.PLAIN, file -> "", cancelledAfter(1)))
                .isInstanceOf(CancellationException.class);
        assertThat(Files.readString(yard) + Files.readString(field)).isEqualTo(before);
        assertThat(runs.runs()).isEmpty();
    }

    @Test
    void aRunThatWasKilledIsTakenBackByTheNext() throws IOException {
        String before = Files.readString(yard);
        ChangeRuns.Done done = run(updates().toReady());
        assertThat(Files.readString(yard)).isNotEqualTo(before);
        // As a killed process leaves it: its notes where they were, and nobody who holds them.
        Path underway = folder.resolve("changes/underway");
        HeldFolder held = HeldFolder.create(() -> underway.resolve("killed"));
        AtomicFiles.deleteTree(held.path());
        Files.move(folder.resolve("changes/done").resolve(done.id()), held.path());
        held.abandon();
        assertThat(runs.recover()).hasSize(2);
        assertThat(Files.readString(yard)).isEqualTo(before);
        assertThat(runs.recover()).isEmpty();
    }

    @Test
    void throughALinkWhatItLeadsToIsChanged() throws IOException {
        Path elsewhere = Files.createDirectories(folder.resolve("elsewhere")).resolve("field.usda");
        Files.move(field, elsewhere);
        Files.writeString(elsewhere, Files.readString(elsewhere).replace("../../library", folder + "/library"));
        Files.createSymbolicLink(field, elsewhere);
        run(updates().toReady());
        assertThat(field).isSymbolicLink();
        assertThat(Files.readString(elsewhere)).contains("v003");
    }

    /**
     * A run over six files is stopped at each of its changes of the file system: afterwards each file is the old or the
     * new one, and after the next start all of a run that was killed are the old ones, or all the new.
     */
    @ParameterizedTest
    @EnumSource(Faults.Kind.class)
    void whereverARunIsStoppedEachFileIsTheOldOrTheNewOne(Faults.Kind kind) throws IOException {
        for (int i = 0; i < 4; i++) {
            Files.copy(field, field.resolveSibling("copy" + i + ".usda"));
        }
        Faults faults = new Faults();
        Map<Path, String> old = contents();
        ChangePlan plan = updates().toReady();
        ChangeRuns.Done whole = run(plan);
        Map<Path, String> fresh = contents();
        runs.undo(whole.id());
        assertThat(contents()).isEqualTo(old);
        List<FileEdit> edits = new ArrayList<>();
        plan.byFile()
                .forEach((file, changes) -> edits.add(new FileEdit(
                        faults.on(file),
                        changes.size(),
                        before -> AssetRewriter.rewritten(file, before, changes, AssetPaths.PLAIN))));
        for (long at = 1; at <= 60; at += 2) {
            faults.failAt(at, kind);
            try {
                new ChangeRuns(faults.on(folder.resolve("changes")), Clock.systemUTC())
                        .run(plan.title(), edits, file -> "", Progress.NONE);
            } catch (Faults.Killed | PantryException e) {
                assertThat(faults.failed()).isTrue();
            }
            faults.end();
            String where = kind + " at change " + at;
            contents().forEach((file, text) -> assertThat(text).as(where).isIn(old.get(file), fresh.get(file)));
            runs.recover();
            if (runs.runs().isEmpty()) {
                assertThat(contents()).as(where + ", taken back").isEqualTo(old);
            } else {
                runs.undo(runs.runs().getFirst().id());
                assertThat(contents()).as(where + ", undone").isEqualTo(old);
            }
        }
    }

    private Map<Path, String> contents() throws IOException {
        Map<Path, String> contents = new TreeMap<>();
        for (Path file : Project.open(project).files()) {
            contents.put(file, Files.readString(file));
        }
        return contents;
    }
}
