package pantry.desktop.shelves;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Session;
import pantry.library.Library;
import pantry.library.Repair;
import pantry.library.TrashItem;
import pantry.usecase.CheckLibrary;

/** The check of a library: what is wrong in it and what can be done about that; and its trash. */
public final class CheckModel {
    private final Session session;
    private final ReadOnlyObjectWrapper<Optional<Checked>> checked = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<TrashItem> trash = FXCollections.observableArrayList();

    /** What a check found. */
    public record Checked(Library library, CheckLibrary.Result result) {}

    public CheckModel(Session session) {
        this.session = session;
    }

    /** What the last check found; empty before one, and once it is left. */
    public ReadOnlyObjectProperty<Optional<Checked>> checkedProperty() {
        return checked.getReadOnlyProperty();
    }

    /** What lies in the trash of the checked library. */
    public ObservableList<TrashItem> trash() {
        return trash;
    }

    /** Checks a library. */
    public void check(Library library) {
        session.run(
                "checking " + library.info().name(),
                progress -> new Checked(library, new CheckLibrary(library).run(progress)),
                result -> {
                    checked.set(Optional.of(result));
                    readTrash();
                });
    }

    /** Looks at the trash once more. */
    public void readTrash() {
        checked.get()
                .ifPresent(now -> session.quietly(
                        "looking into the trash",
                        progress -> now.library().trash().items(),
                        trash::setAll));
    }

    /** Puts a problem right, and checks once more. */
    public void repair(CheckLibrary.Finding finding, Repair repair) {
        checked.get().ifPresent(now -> session.shelving()
                .change(
                        repair.words(),
                        Libraries.Touched.all(now.library()),
                        progress -> {
                            repair.action().run();
                            return repair;
                        },
                        done -> {
                            session.doneForGood(
                                    finding.problem().path().getFileName() + ": " + done.words(),
                                    "the library would be out of order again");
                            check(now.library());
                        },
                        problem -> {
                            session.wrong(problem);
                            check(now.library());
                        }));
    }

    /**
     * A way in which several problems of a kind can be put right at once.
     *
     * @param kind of the problems, in words
     * @param words what is done to each
     */
    public record Together(String kind, String words, List<Repair> repairs) {}

    /** What can be put right together: problems of a kind that have a way in common; nothing for what stands by itself. */
    public static List<Together> together(List<CheckLibrary.Finding> findings) {
        Map<List<String>, List<Repair>> groups = new LinkedHashMap<>();
        for (CheckLibrary.Finding finding : findings) {
            for (Repair repair : finding.ways()) {
                groups.computeIfAbsent(
                                List.of(finding.problem().kind().word(), repair.name()), key -> new ArrayList<>())
                        .add(repair);
            }
        }
        return groups.entrySet().stream()
                .filter(group -> group.getValue().size() > 1)
                .map(group -> new Together(
                        group.getKey().getFirst(), group.getValue().getFirst().words(), List.copyOf(group.getValue())))
                .toList();
    }

    /** Puts problems right together, and checks once more; what cannot be done is told, and stops nothing. */
    public void repair(Together all) {
        record Done(int count, List<PantryException> problems) {}
        checked.get().ifPresent(now -> session.shelving()
                .change(
                        all.words(),
                        Libraries.Touched.all(now.library()),
                        progress -> {
                            List<PantryException> problems = new ArrayList<>();
                            for (int i = 0; i < all.repairs().size(); i++) {
                                int count = i + 1;
                                progress.step(
                                        all.words() + ", " + count + " of "
                                                + all.repairs().size(),
                                        (double) i / all.repairs().size());
                                progress.check();
                                try {
                                    all.repairs().get(i).action().run();
                                } catch (PantryException problem) {
                                    problems.add(problem);
                                }
                            }
                            return new Done(all.repairs().size() - problems.size(), problems);
                        },
                        done -> {
                            done.problems().forEach(session::wrong);
                            if (done.count() > 0) {
                                session.doneForGood(
                                        all.kind() + ", " + done.count() + " times: " + all.words(),
                                        "the library would be out of order again");
                            }
                            check(now.library());
                        },
                        problem -> {
                            session.wrong(problem);
                            check(now.library());
                        }));
    }

    /** Deletes all that lies in the trash for good. */
    public void emptyTrash() {
        checked.get()
                .ifPresent(now -> session.run(
                        "emptying the trash",
                        progress -> {
                            List<TrashItem> items = now.library().trash().items();
                            now.library().trash().delete(items);
                            return items.size();
                        },
                        count -> {
                            session.doneForGood(
                                    "deleted " + count + " things in the trash for good",
                                    "what is deleted for good does not come back");
                            readTrash();
                        }));
    }

    /** Brings a library to the newest format, or back. */
    public void upgrade(Library library, boolean back) {
        session.run(
                back ? "bringing back" : "upgrading",
                progress -> back ? library.downgrade(Progress.NONE) : library.upgrade(progress),
                now -> {
                    session.told(now.info().name() + " has format " + now.info().format() + " now");
                    session.openLibrary(now.root());
                });
    }

    public void leave() {
        checked.set(Optional.empty());
    }
}
