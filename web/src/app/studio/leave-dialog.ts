import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';

/** Asked before a project is left whose changes the server does not have. */
@Component({
  selector: 'kite-leave-dialog',
  imports: [MatDialogModule],
  template: `
    <h2 mat-dialog-title>Your changes are not kept</h2>
    <mat-dialog-content>
      <p>{{ why }} They stay in this browser, and are there again when you open the project here.</p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="quiet-button" type="button" [mat-dialog-close]="true">Leave</button>
      <button class="solid-button" type="button" [mat-dialog-close]="false" cdkFocusInitial>Stay</button>
    </mat-dialog-actions>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LeaveDialog {
  protected readonly why = inject<string>(MAT_DIALOG_DATA);
}
