import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';

/** Asked before something is deleted that nothing brings back; closes with whether it is to be. */
@Component({
  selector: 'kite-erase-dialog',
  imports: [MatDialogModule],
  template: `
    <h2 mat-dialog-title>Delete for good?</h2>
    <mat-dialog-content>
      <p>{{ what }} cannot come back after this.</p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="quiet-button" type="button" [mat-dialog-close]="true">Delete for good</button>
      <button class="solid-button" type="button" [mat-dialog-close]="false" cdkFocusInitial>Keep</button>
    </mat-dialog-actions>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EraseDialog {
  protected readonly what = inject<string>(MAT_DIALOG_DATA);
}
