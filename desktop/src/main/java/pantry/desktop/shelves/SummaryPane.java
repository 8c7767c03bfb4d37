package pantry.desktop.shelves;

import java.util.List;
import java.util.Optional;
import javafx.scene.control.Hyperlink;
import javafx.scene.layout.VBox;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Summary;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;

/** What is told where the card stands while no asset is chosen: all that is shown, what needs a hand, what was changed last. */
final class SummaryPane extends VBox {
    private final ShelvesModel model;

    SummaryPane(ShelvesModel model) {
        super(16);
        this.model = model;
        Summary all = Summary.of(
                model.search().items(), model.session().workbench().clock().instant());
        getChildren().add(Controls.wrapped("Choose an asset to see its card.", Styles.FAINT));
        if (all.count() > 0) {
            getChildren()
                    .add(Controls.section(
                            "Shown",
                            Controls.fact("assets", Units.count(all.count())),
                            Controls.fact("shelves", Units.count(all.shelves())),
                            Controls.fact("triangles together", Units.count(all.triangles()))));
            care(all).ifPresent(getChildren()::add);
            getChildren().add(last(all));
        }
    }

    /** What is not finished; empty where all is. */
    private Optional<VBox> care(Summary all) {
        VBox rows = new VBox(2);
        if (all.drafts() > 0) {
            rows.getChildren().add(narrowing(Units.counted(all.drafts(), "draft"), "status", "draft"));
        }
        if (all.retired() > 0) {
            rows.getChildren().add(narrowing(Units.count(all.retired()) + " retired", "status", "retired"));
        }
        if (all.unlicensed() > 0) {
            rows.getChildren().add(narrowing(Units.count(all.unlicensed()) + " without a licence", "licence", "none"));
        }
        if (all.untagged() > 0) {
            rows.getChildren().add(narrowing(Units.count(all.untagged()) + " without a tag", "tag", "none"));
        }
        return rows.getChildren().isEmpty() ? Optional.empty() : Optional.of(Controls.section("To be looked at", rows));
    }

    private Hyperlink narrowing(String words, String key, String value) {
        Hyperlink link = new Hyperlink(words);
        link.setId("summary-" + key + "-" + value);
        Controls.hint(link, "Show these");
        link.setOnAction(event -> model.search().narrow(key, value));
        return link;
    }

    private VBox last(Summary all) {
        VBox rows = new VBox(2);
        if (all.lately() > 0 && all.lately() < all.count()) {
            rows.getChildren()
                    .add(narrowing(Units.count(all.lately()) + " in the last 7 days", "changed", ">=" + all.since()));
        }
        for (IndexedAsset item : all.last()) {
            Hyperlink link = new Hyperlink(item.name());
            Controls.hint(link, "On " + item.shelf().replace("/", " / "));
            link.setOnAction(event -> model.choose(List.of(item), Optional.of(item)));
            rows.getChildren().add(link);
        }
        return Controls.section("Changed last", rows);
    }
}
