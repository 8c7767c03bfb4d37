package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.binding.LongExpression;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.Session;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.KeyHint;
import pantry.desktop.workplace.MadeOnce;
import pantry.desktop.workplace.Navigation;
import pantry.desktop.workplace.Request;
import pantry.desktop.workplace.Workplace;
import pantry.library.Asset;

/** The workplace that tells which file of which project uses what, and changes that over many files. */
public final class ReachWorkplace implements Workplace {
    private final Session session;
    private final Navigation navigation;
    private final ReachModel model;
    private final MadeOnce<ReachView> view = new MadeOnce<>(this::makeView);
    private final List<Command> commands;

    public ReachWorkplace(Session session, Navigation navigation) {
        this.session = session;
        this.navigation = navigation;
        model = new ReachModel(session);
        commands = List.of(
                Command.of("Look at all projects", "Shortcut+HOME", () -> model.subjectProperty()
                        .set(Subject.ALL)),
                Command.of("Look at the chosen asset", "Shortcut+K", this::lookAtChosen),
                Command.of("List the projects' files", "Shortcut+Shift+F", view.doing(made -> made.lists()
                        .showFiles())),
                Command.of("List the assets", "Shortcut+Shift+A", view.doing(made -> made.lists()
                        .showAssets())),
                Command.of("Make the ticked changes", "Shortcut+ENTER", view.doing(ReachView::carryOut)),
                Command.of("Plan: to the ready versions", () -> model.goalProperty()
                        .set(Goal.READY)),
                Command.of("Plan: let placements follow", () -> model.goalProperty()
                        .set(Goal.FOLLOW)),
                Command.of("Plan: pin what is shown", () -> model.goalProperty().set(Goal.PIN)),
                Command.of("Plan: relink what is missing", () -> model.goalProperty()
                        .set(Goal.RELINK)),
                Command.of("Plan: place copies of assets", () -> model.goalProperty()
                        .set(Goal.STRAYS)),
                Command.of("Plan: clear what nothing needs", () -> model.goalProperty()
                        .set(Goal.LEFTOVERS)),
                Command.of("Plan: swap for another asset", () -> model.goalProperty()
                        .set(Goal.SWAP)),
                Command.of("What if the ready version were retired?", () -> model.goalProperty()
                        .set(Goal.RETIRED)),
                Command.of("What if the asset were not there?", () -> model.goalProperty()
                        .set(Goal.REMOVED)),
                Command.of("What if the newest version were ready?", () -> model.goalProperty()
                        .set(Goal.RIPPLE)),
                Command.of("Plan: archive what nobody uses", () -> model.goalProperty()
                        .set(Goal.ARCHIVE)),
                Command.of("Plan: hand over", () -> model.goalProperty().set(Goal.HAND_OVER)),
                Command.of("Show what the scenes weigh", "Shortcut+M", () -> model.weight()
                        .shownProperty()
                        .set(true)),
                Command.of("Show what uses what", "Shortcut+Shift+M", () -> model.weight()
                        .shownProperty()
                        .set(false)),
                Command.of("Read what was changed", "F5", model::refresh),
                Command.of("Rename or move the chosen file…", view.doing(made -> made.lists()
                        .moveChosen())),
                Command.of("Open a project…", view.doing(ReachView::openProject)),
                Command.of("Close this project", this::closeProject));
    }

    private ReachView makeView() {
        ReachView made = new ReachView(model);
        made.setOnOpenScene(this::openScene);
        made.setOnShowAsset(this::showAsset);
        made.setOnInspect(this::inspect);
        return made;
    }

    private void openScene(Path file) {
        navigation.send(new Request.OpenScene(file));
    }

    private void showAsset(Asset asset) {
        item(asset).ifPresent(item -> navigation.send(new Request.ShowAsset(item)));
    }

    private Optional<IndexedAsset> item(Asset asset) {
        return session.shelving().finder().items().stream()
                .filter(item -> item.id().equals(asset.card().id()))
                .findFirst();
    }

    private void inspect(Asset asset) {
        session.shelving().present().stream()
                .filter(library -> asset.folder().startsWith(library.root()))
                .findFirst()
                .ifPresent(library ->
                        item(asset).ifPresent(item -> navigation.send(new Request.InspectAsset(library, item))));
    }

    private void lookAtChosen() {
        session.chosenAssetProperty().get().map(IndexedAsset::id).ifPresent(id -> model.subjectProperty()
                .set(new Subject.OfAsset(id)));
    }

    private void closeProject() {
        session.projectProperty().get().ifPresent(session::closeProject);
    }

    public ReachModel model() {
        return model;
    }

    @Override
    public String name() {
        return "Reach";
    }

    @Override
    public String icon() {
        return "remixal-git-branch-line";
    }

    @Override
    public String hint() {
        return "Which file uses what";
    }

    @Override
    public ReachView node() {
        return view.get();
    }

    @Override
    public void enter() {
        view.get().lists().enter();
    }

    @Override
    public List<Command> commands() {
        return commands;
    }

    @Override
    public List<KeyHint> keyHints() {
        return List.of(
                new KeyHint("Left, Right", "In the columns: go to what uses this, or what it uses"),
                new KeyHint("F2", "In the files: rename or move, with all that refers to it"),
                new KeyHint("Space", "In what would be done: tick a line, or all of a file"),
                new KeyHint("Enter", "In the columns and boxes: look at this; in the files: open the scene"));
    }

    @Override
    public LongExpression waiting() {
        return LongExpression.longExpression(model.waitingProperty());
    }

    @Override
    public void shown() {
        model.refresh();
    }

    @Override
    public Optional<Runnable> accept(Request request) {
        if (request instanceof Request.WhatIf asked) {
            return Optional.of(() -> {
                model.goalProperty().set(Goal.RIPPLE);
                model.subjectProperty().set(new Subject.OfAsset(asked.item().id()));
            });
        }
        if (request instanceof Request.ShowUses uses) {
            return Optional.of(() ->
                    model.subjectProperty().set(new Subject.OfAsset(uses.item().id())));
        }
        return Optional.empty();
    }
}
